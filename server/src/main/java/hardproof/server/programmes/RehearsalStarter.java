package hardproof.server.programmes;

import hardproof.core.estate.Workload;
import hardproof.server.proof.Evaluated;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Whoever conducts rehearsals: programmes say which, and until when they may begin. */
public interface RehearsalStarter {
  /**
   * What a programme asks for.
   *
   * @param name of the programme, for people
   * @param atOnce null for as many as drills may be
   */
  record Asked(
      String programme,
      String name,
      @Nullable Integer atOnce,
      Duration hold,
      String reason,
      Instant notAfter) {}

  /** A rehearsal that was looked at. */
  interface Prepared {
    /** Why it can't be started; null when it can. */
    @Nullable
    String refusal();

    /** Puts it into the queue; in the transaction that is open. */
    void queue();
  }

  /** Looks what a rehearsal of a workload would take; starts nothing. */
  Prepared prepare(Evaluated before, Workload workload, Asked asked);
}
