package hardproof.core.drills;

import hardproof.core.wording.Coded;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A rehearsal that has ended, as the evaluation sees it: all members of a workload were brought back in their order.
 *
 * @param id of the rehearsal
 * @param workload key of the workload
 * @param moment every member came back from its newest point at or before it
 * @param loss what was left out as if it were lost, in words; null where nothing was
 * @param clock from its begin to the last check that passed, without the waiting for people
 * @param expected how long it would take for all there is, where what was read was far less; null where it was about all
 * @param members all that were brought back, those of workloads that are needed too
 * @param sentence what came of it, for people
 */
public record RehearsalFact(
    String id,
    String workload,
    Instant moment,
    @Nullable String loss,
    Outcome outcome,
    Instant started,
    Instant ended,
    Duration clock,
    @Nullable Duration expected,
    List<Member> members,
    String sentence) {

  /** What it came to. */
  public enum Outcome implements Coded {
    /** Every member came up in its order and was up at the end. */
    PASSED,
    /** A member did not come up, or did not stay up. */
    FAILED,
    /** Ended from outside, or something could not be judged: it says nothing about the data. */
    INTERRUPTED
  }

  /**
   * What was brought back.
   *
   * @param run of its drill; null where it came with another, or never began
   * @param store that it was read from; null as {@code run}
   */
  public record Member(
      String resource, @Nullable String run, @Nullable String store) {}

  public RehearsalFact {
    members = List.copyOf(members);
  }

  /** How long it counts as: what was measured on a small part of what there is says too little alone. */
  public Duration counted() {
    return expected == null || expected.compareTo(clock) < 0 ? clock : expected;
  }

  public boolean passed() {
    return outcome == Outcome.PASSED;
  }

  /** Says something bad about the data or its order. */
  public boolean failed() {
    return outcome == Outcome.FAILED;
  }
}
