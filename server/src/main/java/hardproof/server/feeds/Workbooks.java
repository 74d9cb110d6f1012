package hardproof.server.feeds;

import hardproof.core.wording.Wording;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Enumeration;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.ReadingOptions;

/** Opens workbooks, but none that unpacks to more than there is room for. */
final class Workbooks {
  private static final int MOST_PARTS = 10_000;

  /** Of all parts together. */
  private static final long MOST_BYTES = 4L << 30;

  /** Of each part that is held in memory whole: texts that cells share, styles, and the list of sheets. */
  private static final long MOST_HELD = 200L << 20;

  private Workbooks() {}

  static ReadableWorkbook open(Path path, String file) throws IOException {
    refuseOthers(path, file);
    try (ZipFile zip = new ZipFile(path.toFile())) {
      count(zip, file);
    } catch (UnreadableFile e) {
      throw e;
    } catch (IOException | IllegalArgumentException e) {
      throw new UnreadableFile(file, 0, null, "is no workbook, or one that was cut off");
    }
    try {
      return new ReadableWorkbook(path.toFile(), new ReadingOptions(true, true));
    } catch (IOException | RuntimeException e) {
      throw new UnreadableFile(file, 0, null, "can't be read as a workbook: " + words(e));
    }
  }

  static String words(Throwable e) {
    Throwable cause = e.getCause() == null ? e : e.getCause();
    String message =
        cause.getMessage() == null ? cause.getClass().getSimpleName() : cause.getMessage();
    return message.lines().findFirst().orElse("");
  }

  private static void refuseOthers(Path path, String file) throws IOException {
    byte[] start;
    try (InputStream in = Files.newInputStream(path)) {
      start = in.readNBytes(8);
    }
    if (ReadableWorkbook.isOLE2Header(start)) {
      throw new UnreadableFile(
          file,
          0,
          null,
          "is a workbook of the older form, or one with a password; save it as .xlsx without one");
    }
  }

  /** What it says it unpacks to is not believed: it is unpacked, and what comes is counted. */
  private static void count(ZipFile zip, String file) throws IOException {
    byte[] buffer = new byte[1 << 16];
    long all = 0;
    int parts = 0;
    for (Enumeration<? extends ZipEntry> e = zip.entries(); e.hasMoreElements(); ) {
      ZipEntry entry = e.nextElement();
      if (++parts > MOST_PARTS) {
        throw new UnreadableFile(file, 0, null, "has more than " + MOST_PARTS + " parts");
      }
      if (!entry.getName().endsWith(".xml") && !entry.getName().endsWith(".rels")) {
        continue; // Pictures, macros and the like are never unpacked.
      }
      boolean streamed = entry.getName().contains("worksheets/");
      long most = streamed ? MOST_BYTES - all : Math.min(MOST_HELD, MOST_BYTES - all);
      long bytes = 0;
      try (InputStream in = zip.getInputStream(entry)) {
        int n;
        while ((n = in.read(buffer)) >= 0) {
          bytes += n;
          if (bytes > most) {
            throw new UnreadableFile(
                file,
                0,
                entry.getName(),
                "unpacks to more than " + Wording.bytes(most) + "; nothing of it was taken");
          }
        }
      }
      all += bytes;
    }
  }
}
