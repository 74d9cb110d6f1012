package hardproof.proving.archives;

import hardproof.proving.names.EntryName;
import java.io.IOException;

/** An archive that tries to do what no archive of data needs to. */
public final class HostileArchive extends IOException {
  private static final long serialVersionUID = 1L;
  private final String entry;

  public HostileArchive(String entry, String reason) {
    super("entry \"" + EntryName.shown(entry) + "\" " + reason);
    this.entry = entry;
  }

  public String entry() {
    return entry;
  }
}
