package hardproof.proving.sandboxes;

import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/**
 * Writes a file of a sandbox. That its disk is full, or fails, is told as a {@link FileSystemException}
 * with the file's name, so that it is never taken for a fault of the data that was being read.
 */
public final class SandboxOutput extends FilterOutputStream {
  private final Path file;

  private SandboxOutput(Path file, OutputStream out) {
    super(out);
    this.file = file;
  }

  /** Makes the file, or empties it; a link in its place is not followed but an error. */
  public static OutputStream to(Path file) throws IOException {
    return new SandboxOutput(
        file,
        Files.newOutputStream(
            file,
            StandardOpenOption.CREATE,
            StandardOpenOption.TRUNCATE_EXISTING,
            StandardOpenOption.WRITE,
            LinkOption.NOFOLLOW_LINKS));
  }

  @Override
  public void write(int one) throws IOException {
    write(new byte[] {(byte) one}, 0, 1);
  }

  @Override
  public void write(byte[] buffer, int offset, int length) throws IOException {
    try {
      out.write(buffer, offset, length);
    } catch (IOException e) {
      throw ours(e);
    }
  }

  @Override
  public void close() throws IOException {
    try {
      super.close();
    } catch (IOException e) {
      throw ours(e);
    }
  }

  private FileSystemException ours(IOException e) {
    FileSystemException ours = new FileSystemException(file.toString(), null, e.getMessage());
    ours.initCause(e);
    return ours;
  }
}
