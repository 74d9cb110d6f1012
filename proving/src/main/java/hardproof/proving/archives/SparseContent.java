package hardproof.proving.archives;

import hardproof.proving.streams.Pieces;
import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;

/** The content of a file with holes, the holes filled with zeros. */
final class SparseContent extends Pieces {
  private final InputStream stored;
  private final SparseMap map;
  private final long size;
  private long at;
  private int place;

  /**
   * @param stored the bytes of all places, one after another
   * @param size of the whole file
   */
  SparseContent(InputStream stored, SparseMap map, long size) {
    this.stored = stored;
    this.map = map;
    this.size = size;
  }

  @Override
  public int read(byte[] buffer, int offset, int length) throws IOException {
    if (at >= size) {
      return -1;
    }
    long[] next = place < map.places().size() ? map.places().get(place) : new long[] {size, 0};
    if (at < next[0]) {
      int n = (int) Math.min(length, next[0] - at);
      Arrays.fill(buffer, offset, offset + n, (byte) 0);
      at += n;
      return n;
    }
    int n = stored.read(buffer, offset, (int) Math.min(length, next[0] + next[1] - at));
    if (n < 0) {
      throw new BrokenArchive("a sparse file holds less than its map says");
    }
    at += n;
    if (at == next[0] + next[1]) {
      place++;
    }
    return n;
  }
}
