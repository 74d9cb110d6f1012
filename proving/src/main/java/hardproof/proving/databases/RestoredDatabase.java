package hardproof.proving.databases;

import hardproof.core.wording.Wording;
import hardproof.proving.checks.Answer;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.checks.Restored;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** A database that was restored under a new name, whatever its engine. */
public abstract class RestoredDatabase implements Restored {
  static final int FAULTS_LISTED = 10;

  /** The engine could not answer: the words are its own. */
  public static final class QueryFailed extends Exception {
    private static final long serialVersionUID = 1L;

    public QueryFailed(String message, Throwable cause) {
      super(message, cause);
    }
  }

  /** What the engine's own check of its integrity finds; empty when all is well. */
  public abstract List<String> integrityFaults() throws QueryFailed, IOException;

  /** What is worth saying of it and is no fault; null when nothing is. */
  public String remark() throws IOException {
    return null;
  }

  /** Whether there is anything in it. */
  public abstract Emptiness emptiness() throws QueryFailed, IOException;

  /** The first columns of the first rows as text, null for NULL; at most {@code atMost} of them. */
  abstract List<String> values(String query, int atMost) throws QueryFailed, IOException;

  @Override
  public final Set<Aspect> aspects() {
    return Set.of(Aspect.DATABASE);
  }

  @Override
  public final Answer ask(Check check, Instant dataTime) throws IOException {
    String query = check.subject();
    String line = query.replaceAll("\\s+", " ");
    String question = line.length() > 80 ? line.substring(0, 79) + "…" : line;
    try {
      return switch (check.type()) {
        case QUERY_EQUALS, QUERY_AT_LEAST -> {
          String found = first(query);
          boolean passed = check.accepts(found);
          String expected = (check.type() == CheckType.QUERY_AT_LEAST ? "at least " : "equal to ")
              + check.expected();
          yield Answer.of(
              passed,
              question + " gave " + (found == null ? "nothing" : shown(found)) + ", " + expected
                  + (passed ? "" : " was expected"));
        }
        case EMPTY -> {
          Emptiness found = emptiness();
          yield Answer.of(
              found.empty(),
              found.empty()
                  ? "it is empty, as it was said to be"
                  : "it is said to be empty, and holds " + found.sentence());
        }
        case NEWEST_WITHIN -> newest(check, question, first(query), dataTime);
        case MARKER_THERE, MARKER_ABSENT -> {
          boolean there = values(query, 100_000).contains(check.expected());
          yield Answer.of(
              there == (check.type() == CheckType.MARKER_THERE),
              "the marker " + check.expected() + (there ? " is among " : " is not among ") + "what "
                  + question + " gives");
        }
        default -> throw new IllegalArgumentException(check.type() + " is not asked of a database");
      };
    } catch (QueryFailed e) {
      return Answer.of(false, question + " could not be answered: " + e.getMessage());
    }
  }

  @Override
  public final String value(String question) throws Unanswered, IOException {
    try {
      String found = first(question);
      if (found == null) {
        throw new Unanswered("gave nothing");
      }
      return found;
    } catch (QueryFailed e) {
      throw new Unanswered("could not be answered: " + e.getMessage());
    }
  }

  @Override
  public final @Nullable String fallen() throws IOException {
    try {
      ping();
      return null;
    } catch (QueryFailed e) {
      return "the database does not answer any more: " + e.getMessage();
    }
  }

  /** Asks for next to nothing. */
  void ping() throws QueryFailed, IOException {
    values("SELECT 1", 1);
  }

  private static String shown(String value) {
    return value.length() > 200 ? value.substring(0, 199) + "…" : value;
  }

  private String first(String query) throws QueryFailed, IOException {
    List<String> values = values(query, 1);
    return values.isEmpty() ? null : values.get(0);
  }

  /** What would really be lost: the newest time in the data against the one that the point promises. */
  private static Answer newest(Check check, String question, String found, Instant dataTime) {
    Instant newest = found == null ? null : DataTimes.read(found);
    if (newest == null) {
      return noTime(question, found);
    }
    if (dataTime == null) {
      return dataTimeUnknown(newest);
    }
    return lost(check, dataTime, newest);
  }

  private static Answer noTime(String question, String found) {
    return Answer.of(
        false,
        question + " gave " + (found == null ? "nothing" : shown(found)) + ", a time was expected");
  }

  private static Answer dataTimeUnknown(Instant newest) {
    return new Answer(
        false,
        false,
        "the newest data is of " + newest + "; the data time of the point is not known",
        newest);
  }

  private static Answer lost(Check check, Instant dataTime, Instant newest) {
    Duration lost = Duration.between(newest, dataTime);
    boolean passed = lost.compareTo(check.duration()) <= 0;
    String measured = lost.isNegative()
        ? Wording.duration(lost.negated()) + " after the point's own data time"
        : Wording.duration(lost) + " before the point's data time";
    return Answer.of(
        passed,
        "the newest data is of " + Wording.time(newest, dataTime) + ", " + measured + "; "
            + Wording.duration(check.duration()) + " allowed",
        newest);
  }
}
