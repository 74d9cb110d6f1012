package hardproof.server.feeds;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.RawRow;
import hardproof.core.feeds.Rejection;
import hardproof.core.recipes.Layout;
import java.io.BufferedInputStream;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** The rows of one bundle file, read one after another in a bounded amount of memory. */
interface Rows extends Closeable {
  /** A row, or why there is none at this place. */
  record Next(RawRow row, Rejection rejection) {}

  /** False when no row can have a value in this field, so that nobody has to look. */
  default boolean mayHave(String field) {
    return true;
  }

  /** Names of columns where the file says them before its rows; null where each row says its own. */
  default @Nullable List<String> columns() {
    return null;
  }

  /** How many rows were left out so far because they give none of what is asked for. */
  default long leftOut() {
    return 0;
  }

  /**
   * The next row; null at the end.
   *
   * @throws UnreadableFile when nothing after this place can be read
   */
  Next next() throws IOException;

  /**
   * Opens a file by its name's ending.
   *
   * @throws UnreadableFile when it is empty, is not UTF-8 text, or its columns are not those of the
   *     type
   */
  static Rows open(Path path, String name, BundleFile type) throws IOException {
    return open(path, name, type, ImportProgress.UNWATCHED);
  }

  /** As it stands, or by the recipe that comes with it. */
  static Rows open(Bundle.Member file, ImportProgress progress) throws IOException {
    Bundle.By by = file.by();
    if (by == null) {
      return open(file.path(), file.name(), file.type(), progress);
    }
    Rows any = report(file.path(), file.name(), by.recipe().layout(), progress);
    return RecipeRows.of(any, file.name(), by.recipe(), by.output());
  }

  /** The rows of somebody else's report as they stand in it. */
  static Rows report(Path path, String name, Layout layout, ImportProgress progress)
      throws IOException {
    if (isWorkbook(name)) {
      return new SheetRows(path, name, layout);
    }
    Rows rows = open(path, name, null, layout, progress);
    return layout.footers() == 0 ? rows : new WithoutLast(rows, layout.footers());
  }

  /** Whether a name is one of a workbook. */
  static boolean isWorkbook(String name) {
    return name.toLowerCase(Locale.ROOT).matches(".*\\.(xlsx|xlsm)");
  }

  /** Whether a name is one of JSON. */
  static boolean isJson(String name) {
    return name.toLowerCase(Locale.ROOT).matches(".*\\.(json|jsonl|ndjson)");
  }

  private static Rows open(Path path, String name, BundleFile type, ImportProgress progress)
      throws IOException {
    return open(path, name, type, Layout.PLAIN, progress);
  }

  private static Rows open(
      Path path, String name, BundleFile type, Layout layout, ImportProgress progress)
      throws IOException {
    if (Files.size(path) == 0) {
      throw new UnreadableFile(
          name, 0, null, "is empty; a CSV file begins with a line of column names");
    }
    InputStream bytes =
        new BufferedInputStream(new Watched(Files.newInputStream(path), progress), 1 << 16);
    try {
      return rows(name, type, layout, bytes);
    } catch (IOException | RuntimeException e) {
      bytes.close();
      throw e;
    }
  }

  private static Rows rows(String name, BundleFile type, Layout layout, InputStream bytes)
      throws IOException {
    Reader text = text(name, bytes);
    return isJson(name)
        ? new JsonRows(text, name, type, layout.path())
        : new CsvRows(text, name, type, layout);
  }

  /** UTF-8, with or without a mark; a byte that is none of it is refused where it comes. */
  static Reader text(String name, InputStream bytes) throws IOException {
    return new InputStreamReader(
        withoutMark(bytes, name),
        StandardCharsets.UTF_8
            .newDecoder()
            .onMalformedInput(CodingErrorAction.REPORT)
            .onUnmappableCharacter(CodingErrorAction.REPORT));
  }

  /** Tells how far it was read. */
  final class Watched extends java.io.FilterInputStream {
    private final ImportProgress progress;
    private long position;

    Watched(InputStream in, ImportProgress progress) {
      super(in);
      this.progress = progress;
    }

    @Override
    public int read(byte[] buffer, int from, int most) throws IOException {
      int n = super.read(buffer, from, most);
      position += Math.max(0, n);
      progress.read(position);
      return n;
    }
  }

  private static InputStream withoutMark(InputStream in, String name) throws IOException {
    in.mark(3);
    byte[] start = in.readNBytes(3);
    if (start.length == 3
        && start[0] == (byte) 0xEF
        && start[1] == (byte) 0xBB
        && start[2] == (byte) 0xBF) {
      return in;
    }
    if (start.length >= 2 && (start[0] & 0xFF) >= 0xFE && (start[1] & 0xFF) >= 0xFE) {
      throw new UnreadableFile(name, 0, null, "is UTF-16 text; save it as UTF-8");
    }
    in.reset();
    return in;
  }
}
