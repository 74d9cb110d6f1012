package hardproof.proving.sandboxes;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.FileSystemException;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;

/**
 * Writes a file of a sandbox and leaves holes where whole pieces are zeros, so that a preallocated file
 * takes no more room than its content. Failures of the disk are told as {@link SandboxOutput} tells them.
 */
public final class SandboxFile implements Closeable {
  /** A piece of zeros smaller than a block of the file system would take the block all the same. */
  private static final int SMALLEST_HOLE = 4096;

  private final Path file;
  private final FileChannel channel;
  private long size;

  private SandboxFile(Path file, FileChannel channel) {
    this.file = file;
    this.channel = channel;
  }

  /** Makes the file; one that is there, or a link, is an error. */
  public static SandboxFile create(Path file) throws IOException {
    return new SandboxFile(
        file,
        FileChannel.open(
            file,
            StandardOpenOption.CREATE_NEW,
            StandardOpenOption.WRITE,
            StandardOpenOption.SPARSE,
            LinkOption.NOFOLLOW_LINKS));
  }

  /**
   * Writes the first {@code length} bytes of a piece, or leaves a hole where all of them are zero.
   *
   * @return bytes that were written to the disk
   */
  public int write(byte[] piece, int length) throws IOException {
    if (length >= SMALLEST_HOLE && zeros(piece, length)) {
      size += length;
      return 0;
    }
    try {
      ByteBuffer bytes = ByteBuffer.wrap(piece, 0, length);
      while (bytes.hasRemaining()) {
        size += channel.write(bytes, size);
      }
      return length;
    } catch (IOException e) {
      throw ours(e);
    }
  }

  private static boolean zeros(byte[] piece, int length) {
    return piece[0] == 0 && Arrays.equals(piece, 0, length - 1, piece, 1, length);
  }

  @Override
  public void close() throws IOException {
    try {
      if (channel.size() < size) {
        // A hole at the end: the last byte gives the file its size.
        channel.write(ByteBuffer.allocate(1), size - 1);
      }
    } catch (IOException e) {
      throw ours(e);
    } finally {
      channel.close();
    }
  }

  private FileSystemException ours(IOException e) {
    FileSystemException ours = new FileSystemException(file.toString(), null, e.getMessage());
    ours.initCause(e);
    return ours;
  }
}
