package hardproof.proving.drills;

/** The data is shown to be bad, or what was asked for can't be had. */
final class DrillFailure extends Exception {
  private static final long serialVersionUID = 1L;
  private final String point;
  private final String store;
  private final Kind kind;

  /** What a failure says. */
  enum Kind {
    /** The bytes could not be brought back. */
    RESTORE,
    /** They came back, and are not what they should be. */
    CHECKS,
    /** Nothing about the data: it was asked wrongly, or our own means failed. */
    NOTHING
  }

  private DrillFailure(String point, String store, Kind kind, String message) {
    super(message);
    this.point = point;
    this.store = store;
    this.kind = kind;
  }

  /** This copy could not be read or restored. */
  static DrillFailure copyUnrestorable(DrillRequest request, Artifact artifact, String message) {
    return new DrillFailure(artifact.point(), request.storeKey(), Kind.RESTORE, message);
  }

  /** The bytes are as they were written, and nothing can be restored from them, wherever they lie. */
  static DrillFailure contentUnrestorable(Artifact artifact, String message) {
    return new DrillFailure(artifact.point(), null, Kind.RESTORE, message);
  }

  /**
   * What it blames depends on whether the bytes are known to be as they were written.
   *
   * @param difference how they differ; null when they do not, or nothing was recorded
   */
  static DrillFailure unrestorable(
      DrillRequest request, Artifact artifact, String difference, String message) {
    return difference == null && artifact.sha256() != null
        ? contentUnrestorable(artifact, message)
        : copyUnrestorable(request, artifact, message);
  }

  /** This copy was read, and is not what it should be. */
  static DrillFailure copyWrong(DrillRequest request, Artifact artifact, String message) {
    return new DrillFailure(artifact.point(), request.storeKey(), Kind.CHECKS, message);
  }

  /** The bytes are as they were written, and what they hold is bad: so is every other copy. */
  static DrillFailure contentWrong(Artifact artifact, String message) {
    return new DrillFailure(artifact.point(), null, Kind.CHECKS, message);
  }

  /** It can't be done as asked, or an engine of ours failed; says nothing about the data. */
  static DrillFailure ofRequest(String message) {
    return new DrillFailure(null, null, Kind.NOTHING, message);
  }

  /** What it takes is not here: a format, a key, room. It says nothing about the data. */
  static DrillFailure lacking(String what) {
    return ofRequest("not judged: " + what + "; this says nothing about the data");
  }

  String point() {
    return point;
  }

  String store() {
    return store;
  }

  Kind kind() {
    return kind;
  }
}
