package hardproof.proving.stores;

import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** Reads of a store, whose failures are the artifact's and not the sandbox's. */
final class Reading extends FilterInputStream {
  private final String place;

  Reading(String place, InputStream in) {
    super(in);
    this.place = place;
  }

  @Override
  public int read(byte[] buffer, int offset, int length) throws IOException {
    try {
      return super.read(buffer, offset, length);
    } catch (IOException e) {
      throw new ArtifactUnreadable(place, "can't be read: " + e.getMessage(), e);
    }
  }
}
