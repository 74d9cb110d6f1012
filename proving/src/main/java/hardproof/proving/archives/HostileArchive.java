package hardproof.proving.archives;

import java.io.IOException;

/** An archive that tries to do what no archive of data needs to. */
public final class HostileArchive extends IOException {
  private final String entry;

  public HostileArchive(String entry, String reason) {
    super("entry \"" + entry.replaceAll("\\p{Cntrl}", "?") + "\" " + reason);
    this.entry = entry;
  }

  public String entry() {
    return entry;
  }
}
