package hardproof.proving.stores;

import hardproof.proving.archives.SpecialEntry;
import java.io.IOException;
import java.io.InputStream;
import java.time.Instant;
import java.util.List;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/** A store that artifacts can be read from. Nothing can be written through it. */
public interface ArtifactStore {
  /** For messages: where it is. */
  String where();

  /** Why nothing may be read from it, in words that follow its name and a colon; null when it may. */
  default String refusal() {
    return null;
  }

  /**
   * Why the store itself can't be reached, apart from any artifact, in words that follow "can't be reached:";
   * null when it can.
   */
  @Nullable
  String away();

  /** Whether the store itself can be reached, apart from any artifact. */
  default boolean reachable() {
    return away() == null;
  }

  /**
   * Size of an artifact in bytes; of a folder, of all files in it.
   *
   * @throws ArtifactUnreadable when it is not there or lies outside the store
   */
  long size(String place) throws ArtifactUnreadable;

  /**
   * Opens an artifact that is one file; reads that fail throw {@link ArtifactUnreadable} too.
   *
   * @throws ArtifactUnreadable when it is not there or lies outside the store
   */
  InputStream open(String place) throws ArtifactUnreadable;

  /**
   * An artifact that is a folder.
   *
   * @throws ArtifactUnreadable when it is no folder, is not there or lies outside the store
   */
  Folder folder(String place) throws ArtifactUnreadable;

  /**
   * Tells of everything that lies on it, without reading any of it. In no order; links are not followed.
   *
   * @throws ArtifactUnreadable when the list breaks off: what was told until then is not all
   */
  void list(Consumer<Listed> each) throws ArtifactUnreadable;

  /**
   * What the store itself says of a thing on it, beyond what a list tells.
   *
   * @throws ArtifactUnreadable when it is not there, or can't be asked for
   */
  default Protection protection(String place) throws ArtifactUnreadable {
    return Protection.NOT_KNOWN;
  }

  /** A folder on a store. Links in it are told, and never followed. */
  interface Folder {
    /** Paths of its files with / between their parts, sorted. */
    List<String> files();

    /** Paths of the folders in it, sorted. */
    List<String> folders();

    /**
     * What the store tells of one of its files.
     *
     * @throws ArtifactUnreadable when it can't be read
     */
    Attributes attributes(String file) throws ArtifactUnreadable;

    /** Links, pipes and devices in it. */
    List<SpecialEntry> specials();

    /**
     * Opens one of its files.
     *
     * @throws ArtifactUnreadable when it can't be read
     */
    InputStream open(String file) throws ArtifactUnreadable;
  }

  /**
   * Of a file in a store.
   *
   * @param mode permissions; null where the file system has none
   */
  record Attributes(@Nullable Integer mode, Instant modified) {}

  /** The artifact can't be read: a failure of the copy, not of ours. */
  final class ArtifactUnreadable extends IOException {
    private static final long serialVersionUID = 1L;
    private final String place;
    private final boolean unjudged;

    /** The message reads {@code PLACE what}. */
    public ArtifactUnreadable(String place, String what, Throwable cause) {
      this(place, what, cause, false);
    }

    private ArtifactUnreadable(String place, String what, Throwable cause, boolean unjudged) {
      super(place + " " + what, cause);
      this.place = place;
      this.unjudged = unjudged;
    }

    /** Nobody could look at it, or not at all of it: nothing is said about the data. */
    public static ArtifactUnreadable unjudged(
        String place, String what, @Nullable Throwable cause) {
      return new ArtifactUnreadable(place, what, cause, true);
    }

    /** Whether it says nothing about the data: it may not be read, or the way to it broke. */
    public boolean unjudged() {
      return unjudged;
    }

    /** Which artifact it is. */
    public String place() {
      return place;
    }
  }
}
