package hardproof.proving.images;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/** A disk in a raw image, only read. */
public final class Disk implements Closeable {
  /** Bytes in a sector; disks with larger ones are not read. */
  public static final int SECTOR = 512;

  private final FileChannel channel;
  private final long size;

  private Disk(FileChannel channel) throws IOException {
    this.channel = channel;
    this.size = channel.size();
  }

  public static Disk open(Path image) throws IOException {
    return new Disk(FileChannel.open(image, StandardOpenOption.READ));
  }

  /** In bytes. */
  public long size() {
    return size;
  }

  /** Whole sectors. */
  public long sectors() {
    return size / SECTOR;
  }

  /** Bytes from an offset, little-endian; what lies beyond the end is zeros. */
  public ByteBuffer read(long offset, int length) throws IOException {
    ByteBuffer buffer = ByteBuffer.allocate(length).order(ByteOrder.LITTLE_ENDIAN);
    long at = offset;
    while (buffer.hasRemaining() && at < size && at >= 0) {
      int n = channel.read(buffer, at);
      if (n < 0) {
        break;
      }
      at += n;
    }
    buffer.clear();
    return buffer;
  }

  public ByteBuffer sector(long number) throws IOException {
    return read(number * SECTOR, SECTOR);
  }

  @Override
  public void close() throws IOException {
    channel.close();
  }
}
