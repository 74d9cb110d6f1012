package hardproof.proving.stores;

import java.io.IOException;
import java.io.InputStream;

/** A store that artifacts can be read from. Nothing can be written through it. */
public interface ArtifactStore {
  /** For messages: where it is. */
  String where();

  /** Whether the store itself can be reached, apart from any artifact. */
  boolean reachable();

  /**
   * Size of an artifact in bytes.
   *
   * @throws ArtifactUnreadable when it is not there or lies outside the store
   */
  long size(String place) throws ArtifactUnreadable;

  /**
   * Opens an artifact; reads that fail throw {@link ArtifactUnreadable} too.
   *
   * @throws ArtifactUnreadable when it is not there or lies outside the store
   */
  InputStream open(String place) throws ArtifactUnreadable;

  /** The artifact can't be read: a failure of the copy, not of ours. */
  final class ArtifactUnreadable extends IOException {
    private static final long serialVersionUID = 1L;
    private final String place;

    /** The message reads {@code PLACE what}. */
    public ArtifactUnreadable(String place, String what, Throwable cause) {
      super(place + " " + what, cause);
      this.place = place;
    }

    /** Which artifact it is. */
    public String place() {
      return place;
    }
  }
}
