package hardproof.core.lookup;

import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.findings.Finding;
import hardproof.core.lookup.Hit.Kind;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.wording.Wording;
import java.text.Normalizer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Looks for words among everything there is. Every word must be in a name, a key or what belongs to it; case and accents do not
 * matter. What begins with the words comes before what only holds them. Pure.
 */
public final class Lookup {
  /** Of so many resources points are looked at: their names begin what is looked for, or match it. */
  private static final int RESOURCES_WITH_POINTS = 5;

  private static final int OF_A_KIND = 8;

  private final Evaluation evaluation;
  private final Estate estate;
  private final List<String> words;
  private final String whole;
  private final List<Hit> hits = new ArrayList<>();

  private Lookup(Evaluation evaluation, Estate estate, String query) {
    this.evaluation = evaluation;
    this.estate = estate;
    this.whole = plain(query).strip();
    this.words = Arrays.stream(whole.split("\\s+")).filter(w -> !w.isEmpty()).toList();
  }

  /**
   * At most eight of each kind, best first.
   *
   * @param findings of the evaluation
   */
  public static List<Hit> find(
      Evaluation evaluation, Estate estate, List<Finding> findings, String query) {
    Lookup lookup = new Lookup(evaluation, estate, query);
    return lookup.words.isEmpty() ? List.of() : lookup.found(findings);
  }

  private List<Hit> found(List<Finding> findings) {
    evaluation.workloads().forEach(this::workload);
    List<Resource> matching = new ArrayList<>();
    for (Resource r : estate.facts().resources()) {
      boolean hit = resource(r);
      boolean begun = plain(r.key()).length() > 2 && whole.startsWith(plain(r.key()));
      if ((hit || begun) && matching.size() < RESOURCES_WITH_POINTS) {
        matching.add(r);
      }
    }
    matching.forEach(this::points);
    List<DrillFact> drills = estate.facts().drills();
    for (int i = drills.size() - 1; i >= 0; i--) {
      drill(drills.get(i));
    }
    findings.forEach(this::finding);
    estate.facts().stores().forEach(this::store);
    estate.facts().policies().forEach(this::policy);
    estate.facts().feeds().forEach(this::feed);
    hits.sort(Comparator.comparingInt(Hit::rank).thenComparing(Hit::kind));
    Map<Kind, Integer> counts = new HashMap<>();
    return hits.stream()
        .filter(h -> counts.merge(h.kind(), 1, Integer::sum) <= OF_A_KIND)
        .toList();
  }

  /** Small letters without accents, as somebody types who is in a hurry. */
  static String plain(String text) {
    // Most keys are ASCII, and each is looked at with every letter that is typed.
    if (text.chars().allMatch(c -> c < 0x80)) {
      return text.toLowerCase(Locale.ROOT);
    }
    return Normalizer.normalize(text, Normalizer.Form.NFD)
        .replaceAll("\\p{M}+", "")
        .toLowerCase(Locale.ROOT)
        .replace('ł', 'l')
        .replace('ø', 'o')
        .replace('đ', 'd')
        .replace("ß", "ss")
        .replace("æ", "ae");
  }

  /** A text of a thing, and what it is called where it is why the thing was found. */
  private record Text(String what, @Nullable String text) {}

  private void add(
      Kind kind, String key, String name, String detail, String workload, Text... texts) {
    int rank = 0;
    String why = "";
    for (String word : words) {
      int best = Integer.MAX_VALUE;
      for (Text t : texts) {
        int as = rank(t, word);
        if (as < best) {
          best = as;
          why = t.what().isEmpty() ? why : t.what() + " " + t.text();
        }
      }
      if (best == Integer.MAX_VALUE) {
        return;
      }
      rank += best;
    }
    String plain = plain(name);
    if (plain.equals(whole) || plain(key).equals(whole)) {
      rank = -1;
    }
    hits.add(new Hit(kind, key, name, detail, why, workload, rank));
  }

  /** Begins with it, has a word that does, holds it; a name before what belongs to it. */
  private static int rank(Text t, String word) {
    if (t.text() == null) {
      return Integer.MAX_VALUE;
    }
    String text = plain(t.text());
    int at = text.indexOf(word);
    if (at < 0) {
      return Integer.MAX_VALUE;
    }
    boolean begins = at == 0 || !Character.isLetterOrDigit(text.charAt(at - 1));
    return (at == 0 ? 0 : begins ? 1 : 2) + (t.what().isEmpty() ? 0 : 3);
  }

  private void workload(WorkloadResult w) {
    String key = w.workload().key();
    String tier = w.workload().tier() == null ? "" : "tier " + w.workload().tier() + ", ";
    add(
        Kind.WORKLOAD,
        key,
        w.workload().name(),
        tier + w.verdict().code(),
        key,
        new Text("", w.workload().name()),
        new Text("", key),
        new Text("owner", w.workload().owner()));
  }

  private boolean resource(Resource r) {
    int before = hits.size();
    List<Text> texts = new ArrayList<>(List.of(new Text("", r.name()), new Text("", r.key())));
    r.tags().forEach((tag, value) -> texts.add(new Text("tag " + tag, value)));
    texts.add(new Text("site", r.site()));
    add(
        Kind.RESOURCE,
        r.key(),
        r.name(),
        r.kind().words(),
        workloadOf(r.key()),
        texts.toArray(Text[]::new));
    return hits.size() > before;
  }

  private void points(Resource r) {
    List<RecoveryPoint> points = estate.pointSet(r.key()).points();
    for (int i = points.size() - 1; i >= 0; i--) {
      RecoveryPoint p = points.get(i);
      add(
          Kind.POINT,
          p.key(),
          p.key(),
          r.name() + ", data of " + Wording.time(p.dataTime(), estate.asAt()),
          workloadOf(r.key()),
          new Text("", p.key()));
    }
  }

  private void drill(DrillFact d) {
    Resource r = estate.resource(d.resource());
    String what = (d.method() == Method.READ_BACK ? "read-back of " : "drill of ")
        + (r == null ? d.resource() : r.name());
    add(
        Kind.DRILL,
        d.run(),
        what,
        (d.passed() ? "passed " : d.failed() ? "failed " : "ended ")
            + Wording.time(d.ended(), estate.asAt()),
        workloadOf(d.resource()),
        new Text("", what),
        new Text("run", d.run()),
        new Text("point", d.point()),
        new Text("it said", d.sentence()));
  }

  private void finding(Finding f) {
    add(
        Kind.FINDING,
        f.key(),
        f.concern().title() + ": " + f.about().name(),
        f.sentence(),
        f.about().workload(),
        new Text("", f.concern().title() + " " + f.about().name()),
        new Text("about", f.about().subject()));
  }

  private void store(Store s) {
    add(
        Kind.STORE,
        s.key(),
        s.name(),
        s.site() == null ? "" : "site " + s.site(),
        null,
        new Text("", s.name()),
        new Text("", s.key()),
        new Text("site", s.site()));
  }

  private void policy(Policy p) {
    add(Kind.POLICY, p.key(), p.name(), "", null, new Text("", p.name()), new Text("", p.key()));
  }

  private void feed(Feed f) {
    add(Kind.FEED, f.key(), f.key(), "", null, new Text("", f.key()));
  }

  private @Nullable String workloadOf(String resource) {
    var member = evaluation.resource(resource);
    return member == null ? null : evaluation.workloadOf(member).workload().key();
  }
}
