package hardproof.proving.archives;

/**
 * What a name of a layer takes away of the layers below it (OCI image specification, layer document,
 * "Whiteouts").
 *
 * @param path of what goes; of the folder that is emptied
 * @param opaque whether everything in the folder goes, and not the folder
 */
record Whiteout(String path, boolean opaque) {
  private static final String PREFIX = ".wh.";
  private static final String OPAQUE = ".wh..wh..opq";

  /**
   * @param path of an entry below the root
   * @return null when its name is no whiteout
   * @throws HostileArchive when it would take away what is no name of a file
   */
  static Whiteout of(String path) throws HostileArchive {
    int slash = path.lastIndexOf('/') + 1;
    String last = path.substring(slash);
    if (!last.startsWith(PREFIX)) {
      return null;
    }
    if (last.equals(OPAQUE)) {
      return new Whiteout(path.substring(0, Math.max(0, slash - 1)), true);
    }
    String gone = last.substring(PREFIX.length());
    if (gone.isEmpty() || gone.equals(".") || gone.equals("..")) {
      throw new HostileArchive(path, "takes away what is no name of a file");
    }
    return new Whiteout(path.substring(0, slash) + gone, false);
  }
}
