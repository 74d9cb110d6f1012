package hardproof.proving.images;

/** Something about a disk, for people. */
public record DiskFinding(Level level, String sentence) {
  /** How much it says. */
  public enum Level {
    /** It is as it should be. */
    NOTE,
    /** It may be right; it can't be told here. */
    WARNING,
    /** It is damaged. */
    FAULT
  }

  static DiskFinding note(String sentence) {
    return new DiskFinding(Level.NOTE, sentence);
  }

  static DiskFinding warning(String sentence) {
    return new DiskFinding(Level.WARNING, sentence);
  }

  static DiskFinding fault(String sentence) {
    return new DiskFinding(Level.FAULT, sentence);
  }
}
