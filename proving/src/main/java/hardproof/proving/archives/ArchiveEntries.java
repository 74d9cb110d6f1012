package hardproof.proving.archives;

import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;

/** Reads an archive of one format, entry by entry, and holds it to every checksum that the format has. */
public interface ArchiveEntries extends Closeable {
  /**
   * The next entry; null at the end, when the archive was also seen to be whole.
   *
   * @throws BrokenArchive when the bytes are no whole archive
   * @throws HostileArchive when they ask for what no archive of data needs
   * @throws hardproof.proving.formats.NotReadHere when it takes what we lack
   */
  ArchiveEntry next() throws IOException;

  /** The content of the newest entry, a file; whether it is right is told at its end. */
  InputStream content() throws IOException;

  /** Whether times are those of a clock in a place that is not known, or are rounded by more than a second. */
  default boolean roughTimes() {
    return false;
  }

  /**
   * What other programs may make something else of than we do: told once the end was reached, in words that
   * follow "the archive". Where nothing else vouches that all is there, a doubt is a fault.
   */
  List<String> doubts();
}
