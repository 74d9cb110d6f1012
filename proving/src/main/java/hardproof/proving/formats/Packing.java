package hardproof.proving.formats;

/** How the files of an artifact are held together. */
public enum Packing {
  /** One file that is the content itself. */
  SINGLE(""),
  /** A folder on the store. */
  FOLDER("folder"),
  TAR("tar"),
  CPIO("cpio"),
  ZIP("zip"),
  SEVEN_ZIP("7z");

  private final String code;

  Packing(String code) {
    this.code = code;
  }

  String code() {
    return code;
  }

  /** Whether it can be read from its beginning to its end, so that it may be compressed as a whole. */
  public boolean stream() {
    return this == TAR || this == CPIO;
  }

  /** Whether it tells at its end what it holds, so that it has to be laid aside first. */
  public boolean seeks() {
    return this == ZIP || this == SEVEN_ZIP;
  }
}
