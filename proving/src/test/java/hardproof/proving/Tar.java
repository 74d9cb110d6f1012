package hardproof.proving;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.zip.GZIPOutputStream;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveOutputStream;
import org.apache.commons.compress.archivers.tar.TarConstants;

/** Builds tars for tests, hostile ones too. */
public final class Tar {
  private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
  private final TarArchiveOutputStream tar = new TarArchiveOutputStream(bytes, "UTF-8");

  public Tar() {
    tar.setLongFileMode(TarArchiveOutputStream.LONGFILE_POSIX);
  }

  public Tar file(String name, String content) throws IOException {
    return file(name, content.getBytes(StandardCharsets.UTF_8));
  }

  public Tar file(String name, byte[] content) throws IOException {
    TarArchiveEntry entry = new TarArchiveEntry(name, true);
    entry.setSize(content.length);
    tar.putArchiveEntry(entry);
    tar.write(content);
    tar.closeArchiveEntry();
    return this;
  }

  /** An empty file under a name that is left as it stands. */
  public Tar raw(String name) throws IOException {
    TarArchiveEntry entry = new TarArchiveEntry("x", true);
    entry.setName(name);
    if (!entry.getName().equals(name)) {
      throw new IOException("the library made " + entry.getName() + " of " + name);
    }
    return of(entry);
  }

  public Tar folder(String name) throws IOException {
    return of(new TarArchiveEntry(name + "/", true));
  }

  /**
   * A folder of an incremental tar of GNU.
   *
   * @param list as it stands in the header, with | for the zero bytes
   */
  public Tar dumped(String name, String list) throws IOException {
    TarArchiveEntry entry = new TarArchiveEntry(name + "/", true);
    entry.addPaxHeader("GNU.dumpdir", list.replace('|', '\0'));
    return of(entry);
  }

  public Tar link(String name, String to) throws IOException {
    TarArchiveEntry entry = new TarArchiveEntry(name, TarConstants.LF_SYMLINK);
    entry.setLinkName(to);
    return of(entry);
  }

  public Tar hardLink(String name, String to) throws IOException {
    TarArchiveEntry entry = new TarArchiveEntry(name, TarConstants.LF_LINK);
    entry.setLinkName(to);
    return of(entry);
  }

  public Tar device(String name) throws IOException {
    return of(new TarArchiveEntry(name, TarConstants.LF_CHR));
  }

  public Tar pipe(String name) throws IOException {
    return of(new TarArchiveEntry(name, TarConstants.LF_FIFO));
  }

  private Tar of(TarArchiveEntry entry) throws IOException {
    tar.putArchiveEntry(entry);
    tar.closeArchiveEntry();
    return this;
  }

  public byte[] bytes() throws IOException {
    tar.close();
    return bytes.toByteArray();
  }

  public byte[] gzip() throws IOException {
    return gzip(bytes());
  }

  public static byte[] gzip(byte[] content) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (GZIPOutputStream gzip = new GZIPOutputStream(out)) {
      gzip.write(content);
    }
    return out.toByteArray();
  }
}
