package hardproof.proving.drills;

/** The data is shown to be bad. */
final class DrillFailure extends Exception {
  private static final long serialVersionUID = 1L;
  private final String point;
  private final String store;
  private final boolean inChecks;

  private DrillFailure(String point, String store, boolean inChecks, String message) {
    super(message);
    this.point = point;
    this.store = store;
    this.inChecks = inChecks;
  }

  /** This copy could not be read or restored. */
  static DrillFailure copyUnrestorable(DrillRequest request, Artifact artifact, String message) {
    return new DrillFailure(artifact.point(), request.storeKey(), false, message);
  }

  /** This copy was read, and is not what it should be. */
  static DrillFailure copyWrong(DrillRequest request, Artifact artifact, String message) {
    return new DrillFailure(artifact.point(), request.storeKey(), true, message);
  }

  /** The bytes are as they were written, and what they hold is bad: so is every other copy. */
  static DrillFailure contentWrong(Artifact artifact, String message) {
    return new DrillFailure(artifact.point(), null, true, message);
  }

  String point() {
    return point;
  }

  String store() {
    return store;
  }

  boolean inChecks() {
    return inChecks;
  }
}
