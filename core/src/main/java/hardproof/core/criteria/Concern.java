package hardproof.core.criteria;

/** What can be wrong, in general: the name and the kind of a finding. */
public interface Concern {
  /** Stable; never used again for something else. */
  String code();

  String group();

  String title();

  /** Whether it says that something is wrong with the data itself now, and not with plans and habits. */
  default boolean urgent() {
    return false;
  }
}
