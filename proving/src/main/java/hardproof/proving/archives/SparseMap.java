package hardproof.proving.archives;

import java.util.ArrayList;
import java.util.List;

/** Where in a file with holes its bytes lie; everything else is zeros. */
final class SparseMap {
  private static final int MOST_PLACES = 4_000_000;

  private final List<long[]> places = new ArrayList<>();
  private long stored;
  private long end;

  /**
   * @throws BrokenArchive when places overlap, go backwards or are absurd
   */
  void add(long offset, long length) throws BrokenArchive {
    if (offset < end || length < 0 || offset + length < offset) {
      throw new BrokenArchive("the map of a sparse file has places that overlap or go backwards");
    }
    if (places.size() >= MOST_PLACES) {
      throw new BrokenArchive("the map of a sparse file has more than " + MOST_PLACES + " places");
    }
    if (length > 0) {
      places.add(new long[] {offset, length});
    }
    stored += length;
    end = offset + length;
  }

  /** Offset and length of each, in order. */
  List<long[]> places() {
    return places;
  }

  /** Bytes that the archive holds. */
  long stored() {
    return stored;
  }

  /** Where the last place ends. */
  long end() {
    return end;
  }
}
