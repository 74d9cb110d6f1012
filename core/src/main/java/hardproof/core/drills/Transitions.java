package hardproof.core.drills;

import java.util.EnumMap;
import java.util.EnumSet;
import java.util.Map;
import java.util.Set;

/** The table of allowed changes of a run's three answers. What is not in it is impossible. */
public final class Transitions {
  private static final Map<RestoreState, Set<RestoreState>> RESTORE =
      new EnumMap<>(RestoreState.class);
  private static final Map<ChecksState, Set<ChecksState>> CHECKS = new EnumMap<>(ChecksState.class);
  private static final Map<CleanupState, Set<CleanupState>> CLEANUP =
      new EnumMap<>(CleanupState.class);

  static {
    RESTORE.put(
        RestoreState.WAITING,
        EnumSet.of(RestoreState.RUNNING, RestoreState.REFUSED, RestoreState.INTERRUPTED));
    RESTORE.put(
        RestoreState.RUNNING,
        EnumSet.of(
            RestoreState.DONE,
            RestoreState.FAILED,
            RestoreState.INTERRUPTED,
            RestoreState.REFUSED));
    // A restore that did not come off leaves nothing to check.
    CHECKS.put(
        ChecksState.WAITING,
        EnumSet.of(
            ChecksState.PASSED, ChecksState.FAILED, ChecksState.TIMED_OUT, ChecksState.NOT_ASKED));
    CLEANUP.put(
        CleanupState.NOT_DUE,
        EnumSet.of(CleanupState.HOLDING, CleanupState.DONE, CleanupState.FAILED));
    CLEANUP.put(CleanupState.HOLDING, EnumSet.of(CleanupState.DONE, CleanupState.FAILED));
    // A clean-up that failed is tried again.
    CLEANUP.put(CleanupState.FAILED, EnumSet.of(CleanupState.DONE));
  }

  private Transitions() {}

  /**
   * @throws ImpossibleTransition unless the table allows it; staying the same is always allowed
   */
  public static RestoreState check(RestoreState from, RestoreState to) {
    return check("restore", RESTORE, from, to);
  }

  /**
   * @throws ImpossibleTransition unless the table allows it; staying the same is always allowed
   */
  public static ChecksState check(ChecksState from, ChecksState to) {
    return check("checks", CHECKS, from, to);
  }

  /**
   * @throws ImpossibleTransition unless the table allows it; staying the same is always allowed
   */
  public static CleanupState check(CleanupState from, CleanupState to) {
    return check("clean-up", CLEANUP, from, to);
  }

  private static <S extends Enum<S>> S check(String answer, Map<S, Set<S>> table, S from, S to) {
    if (from != to && !table.getOrDefault(from, Set.of()).contains(to)) {
      throw new ImpossibleTransition(answer, from.name(), to.name());
    }
    return to;
  }

  /** A change of state that the table does not hold. */
  public static final class ImpossibleTransition extends IllegalStateException {
    private final String from;
    private final String to;

    ImpossibleTransition(String answer, String from, String to) {
      super("the " + answer + " of a run can't go from " + from + " to " + to);
      this.from = from;
      this.to = to;
    }

    public String from() {
      return from;
    }

    public String to() {
      return to;
    }
  }
}
