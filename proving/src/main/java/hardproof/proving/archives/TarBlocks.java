package hardproof.proving.archives;

import hardproof.proving.names.EntryName;
import hardproof.proving.streams.Pieces;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import org.jspecify.annotations.Nullable;

/** A tar as blocks, and as the bytes that a header says follow it. */
final class TarBlocks {
  private final InputStream in;
  private long at;
  private @Nullable TarBlock pending;

  TarBlocks(InputStream in) {
    this.in = new BufferedInputStream(in, 1 << 16);
  }

  /** Bytes that were read. */
  long at() {
    return at;
  }

  Stored stored(String name, long bytes) {
    return new Stored(name, bytes);
  }

  /** A block that was read, to be the next. */
  void again(TarBlock block) {
    pending = block;
  }

  /** The next block; null at the end. */
  @Nullable
  TarBlock next() throws IOException {
    if (pending != null) {
      TarBlock block = pending;
      pending = null;
      return block;
    }
    byte[] bytes = in.readNBytes(TarBlock.BYTES);
    at += bytes.length;
    if (bytes.length > 0 && bytes.length < TarBlock.BYTES) {
      throw new BrokenArchive("the tar is cut off at byte " + at + ", in the middle of a block");
    }
    return bytes.length == 0 ? null : new TarBlock(bytes, at - TarBlock.BYTES);
  }

  /** What follows the end is part of no archive any more; a last block need not be whole. */
  @Nullable
  TarBlock nextOrNothing() throws IOException {
    byte[] bytes = in.readNBytes(TarBlock.BYTES);
    at += bytes.length;
    return bytes.length < TarBlock.BYTES ? null : new TarBlock(bytes, at - TarBlock.BYTES);
  }

  /** Whether a header or the end follows at once: old programs tell a size for hard links that have no content. */
  boolean headerFollows() throws IOException {
    in.mark(TarBlock.BYTES);
    TarBlock next = new TarBlock(in.readNBytes(TarBlock.BYTES), at);
    in.reset();
    return next.zeros() || next.sumIsRight();
  }

  /** The bytes that the newest header says follow it. */
  final class Stored extends Pieces {
    private final String name;
    private long left;
    private final int padding;

    private Stored(String name, long bytes) {
      this.name = name;
      this.left = bytes;
      this.padding = (int) (-bytes & TarBlock.BYTES - 1);
    }

    @Override
    public int read(byte[] buffer, int offset, int length) throws IOException {
      if (left == 0) {
        return -1;
      }
      int n = in.read(buffer, offset, (int) Math.min(length, left));
      if (n < 0) {
        throw cutOff();
      }
      left -= n;
      at += n;
      return n;
    }

    private BrokenArchive cutOff() {
      return new BrokenArchive("the tar is cut off at byte " + at + ", in the middle of \""
          + EntryName.shown(name) + "\"");
    }

    void finish() throws IOException {
      byte[] buffer = new byte[1 << 16];
      while (read(buffer, 0, buffer.length) >= 0) {
        // read over
      }
      if (in.readNBytes(padding).length < padding) {
        throw cutOff();
      }
      at += padding;
    }

    /** Bytes that are still to be read. */
    long left() {
      return left;
    }
  }
}
