package hardproof.core.census;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What a census found of a copy.
 *
 * @param id of the finding
 * @param census in which it was found
 * @param at when that census had ended
 * @param lockedUntil of a state {@link CensusState#ofLock} how long the store keeps it from change; null where it does
 *     not, and of every other state
 */
public record CensusFact(
    long id,
    long census,
    String resource,
    String point,
    String store,
    Instant at,
    CensusState state,
    @Nullable Instant lockedUntil,
    String sentence) {
  /** Before the number of a finding where a drill has the id of its run. */
  public static final String RUN = "census-";

  /**
   * Whether {@link #lockedUntil} is what the store said. What was found before that was kept has it in its sentence alone:
   * of those only that there is no lock is known.
   */
  public boolean tellsLock() {
    return state.ofLock() && (lockedUntil != null || sentence.endsWith(Claim.NOT_LOCKED));
  }

  /** As a drill that only looked: it shows a point to be held, or blames the copy that is not. */
  public DrillFact asDrill() {
    boolean bad = state.bad();
    return new DrillFact(
        RUN + id,
        new DrillFact.Of(resource, point, store),
        Method.CENSUS,
        Rung.HELD,
        new DrillFact.Answers(
            bad ? RestoreState.FAILED : RestoreState.DONE,
            bad ? ChecksState.NOT_ASKED : ChecksState.PASSED,
            CleanupState.NOT_DUE),
        new DrillFact.Times(at, at, at),
        0,
        new DrillFact.Blame(bad ? point : null, bad ? store : null),
        sentence);
  }
}
