package hardproof.core.programmes;

import hardproof.core.proof.Evaluation;
import hardproof.core.wording.WrongValue;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;

/**
 * Recovery points drawn at random so that anybody can draw them again: each candidate is a line, a rank is the
 * SHA-256 of the seed, a line feed and that line, and the lowest ranks are drawn. docs/drills.md has the line of
 * shell that does the same.
 *
 * @param seed 64 hexadecimal digits
 * @param digest SHA-256 of the candidates' list, in hexadecimal
 * @param ranked the candidates, the first drawn first
 */
public record Draw(String seed, String digest, List<Candidate> ranked) {
  private static final Comparator<String> BY_BYTES =
      Comparator.comparing(line -> line.getBytes(StandardCharsets.UTF_8), Arrays::compareUnsigned);

  public Draw {
    ranked = List.copyOf(ranked);
  }

  /** A recovery point that could be drawn. */
  public record Candidate(String resource, String point) {
    /**
     * @throws WrongValue where its keys would make two lines or two columns of one
     */
    public Candidate {
      if ((resource + point).chars().anyMatch(c -> c == '\t' || c == '\n' || c == '\r')) {
        throw new WrongValue("the point '" + point + "' of '" + resource
            + "' can't be drawn: its key holds a tab or a line"
            + " break, and nobody could draw it again from a list of lines");
      }
    }

    /** As it stands in the list. */
    public String line() {
      return resource + "\t" + point;
    }
  }

  /** Ranks every candidate; the order in which they come does not matter. */
  public static Draw of(String seed, Collection<Candidate> candidates) {
    Map<String, Candidate> byRank = new TreeMap<>();
    candidates.forEach(c -> byRank.put(rank(seed, c), c));
    return new Draw(seed, Sha256.of(list(byRank.values())), List.copyOf(byRank.values()));
  }

  private static String rank(String seed, Candidate candidate) {
    return Sha256.of(seed + "\n" + candidate.line());
  }

  /** The rank of a candidate, in hexadecimal. */
  public String rank(Candidate candidate) {
    return rank(seed, candidate);
  }

  /** The candidates as a file: a line each, in the order of their bytes. */
  public String list() {
    return list(ranked);
  }

  private static String list(Collection<Candidate> candidates) {
    StringBuilder list = new StringBuilder();
    candidates.stream()
        .map(Candidate::line)
        .sorted(BY_BYTES)
        .forEach(line -> list.append(line).append('\n'));
    return list.toString();
  }

  /** The point of a resource that is drawn; empty when none of its points could be. */
  public Optional<Candidate> of(String resource) {
    return ranked.stream().filter(c -> c.resource().equals(resource)).findFirst();
  }

  /** Of each resource the lowest rank. */
  public Set<Candidate> oneOfEach() {
    Set<String> resources = new HashSet<>();
    return ranked.stream().filter(c -> resources.add(c.resource())).collect(Collectors.toSet());
  }

  /** The lowest ranks, at most so many: a simple sample of all candidates. */
  public List<Candidate> first(int sample) {
    return ranked.subList(0, Math.min(sample, ranked.size()));
  }

  /**
   * The seed of a start, which nobody can pick to suit: it hangs from the instant at which it was due, and from what
   * stood fast before.
   *
   * @param before a digest of what was known, which whoever asks for the start can't choose
   */
  public static String seed(String programme, Instant due, String before) {
    return Sha256.of(programme + "\n" + due + "\n" + before);
  }

  /** A digest of what an evaluation found: each workload with its verdict and why, in the order of their keys. */
  public static String known(Evaluation evaluation) {
    StringBuilder said = new StringBuilder(evaluation.asAt() + "\n");
    evaluation.workloads().stream()
        .sorted(Comparator.comparing(w -> w.workload().key()))
        .forEach(w -> said.append(w.workload().key())
            .append('\t')
            .append(w.verdict().code())
            .append('\t')
            .append(w.sentence())
            .append('\n'));
    return Sha256.of(said.toString());
  }

  /**
   * The candidates of a list that {@link #list} wrote.
   *
   * @throws WrongValue where a line is no candidate
   */
  public static List<Candidate> read(String list) {
    return list.lines()
        .map(line -> line.split("\t", -1))
        .map(columns -> {
          if (columns.length != 2) {
            throw new WrongValue("is no list of candidates: a line has no tab, or several");
          }
          return new Candidate(columns[0], columns[1]);
        })
        .toList();
  }
}
