package hardproof.proving.drills;

import java.util.Arrays;
import java.util.Optional;

/** Formats of artifacts that can be restored. */
public enum ArtifactFormat {
  TAR("tar", true, false),
  TAR_GZ("tar.gz", true, true),
  SQLITE("sqlite", false, false),
  SQLITE_GZ("sqlite.gz", false, true);

  private final String code;
  private final boolean fileSet;
  private final boolean gzip;

  ArtifactFormat(String code, boolean fileSet, boolean gzip) {
    this.code = code;
    this.fileSet = fileSet;
    this.gzip = gzip;
  }

  public String code() {
    return code;
  }

  /** A set of files that can be a layer of a chain; otherwise one database. */
  public boolean fileSet() {
    return fileSet;
  }

  public boolean gzip() {
    return gzip;
  }

  public static Optional<ArtifactFormat> named(String code) {
    return Arrays.stream(values()).filter(f -> f.code.equalsIgnoreCase(code)).findFirst();
  }
}
