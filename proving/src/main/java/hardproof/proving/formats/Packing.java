package hardproof.proving.formats;

/** How the files of an artifact are held together. */
public enum Packing {
  /** One file that is the content itself. */
  SINGLE,
  /** A folder on the store. */
  FOLDER,
  TAR,
  ZIP
}
