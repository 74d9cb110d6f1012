package hardproof.server.feeds;

import hardproof.core.feeds.RawRow;
import hardproof.core.recipes.Layout;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.Row;
import org.dhatim.fastexcel.reader.Sheet;
import org.jspecify.annotations.Nullable;

/**
 * The rows of a workbook (Office Open XML, ISO/IEC 29500), sheet by sheet. What formulas came to is read as it was
 * saved; nothing is worked out, and what else a workbook may carry, such as macros, is not looked at.
 */
final class SheetRows implements Rows {
  private final String file;
  private final Layout layout;
  private final ReadableWorkbook workbook;
  private final SheetCells cells;
  private final List<Sheet> sheets;
  private final List<String> columns = new ArrayList<>();
  private int at = -1;
  private @Nullable Stream<Row> stream;
  private Iterator<Row> rows = List.<Row>of().iterator();
  private final Deque<Row> ahead = new ArrayDeque<>();
  private @Nullable Next ready;

  SheetRows(Path path, String file, Layout layout) throws IOException {
    this.file = file;
    this.layout = layout;
    this.workbook = Workbooks.open(path, file);
    this.cells = new SheetCells(workbook.isDate1904());
    try {
      this.sheets = chosen();
      ready = read();
    } catch (IOException | RuntimeException e) {
      workbook.close();
      throw e;
    }
  }

  private List<Sheet> chosen() throws UnreadableFile {
    List<Sheet> all = workbook.getSheets().toList();
    List<String> names = all.stream().map(Sheet::getName).toList();
    if (all.isEmpty()) {
      throw new UnreadableFile(file, 0, null, "has no sheet");
    }
    List<Sheet> chosen = new ArrayList<>();
    for (String wanted : layout.sheets()) {
      chosen.add(all.stream()
          .filter(s -> s.getName().equalsIgnoreCase(wanted))
          .findFirst()
          .orElseThrow(() -> new UnreadableFile(
              file,
              0,
              wanted,
              "is a sheet that the recipe needs, and this file does not have it; its sheets are "
                  + String.join(", ", names))));
    }
    return chosen.isEmpty() ? List.of(all.get(0)) : chosen;
  }

  /** Where none has a name, the first row may have fewer than others. */
  @Override
  public @Nullable List<String> columns() {
    if (layout.header() == 0) {
      return null;
    }
    if (sheets.size() < 2 || columns.contains(Layout.SHEET)) {
      return columns;
    }
    List<String> with = new ArrayList<>(columns);
    with.add(Layout.SHEET);
    return with;
  }

  @Override
  public @Nullable Next next() throws IOException {
    Next now = ready;
    ready = now == null ? null : read();
    return now;
  }

  private @Nullable Next read() throws IOException {
    try {
      while (true) {
        if (!rows.hasNext()) {
          ahead.clear();
          if (!nextSheet()) {
            return null;
          }
          continue;
        }
        Row row = rows.next();
        if (row.getRowNum() == layout.header()) {
          name(cells.texts(row));
        } else if (row.getRowNum() > layout.header() && !cells.texts(row).isEmpty()) {
          ahead.add(row);
          if (ahead.size() > layout.footers()) {
            Row next = ahead.remove();
            return new Next(row(next.getRowNum(), cells.texts(next)), null);
          }
        }
      }
    } catch (RuntimeException e) {
      // Whatever the library says of what is no workbook, or one that somebody made up.
      throw new UnreadableFile(file, 0, null, "can't be read as a workbook: " + Workbooks.words(e));
    }
  }

  private boolean nextSheet() throws IOException {
    if (stream != null) {
      stream.close();
    }
    if (++at >= sheets.size()) {
      return false;
    }
    stream = sheets.get(at).openStream();
    rows = stream.iterator();
    return true;
  }

  /** Of several sheets the first names the columns, where the others have no more. */
  private void name(List<@Nullable String> texts) {
    List<String> named = Columns.named(texts);
    for (int i = columns.size(); i < named.size(); i++) {
      columns.add(named.get(i));
    }
  }

  private RawRow row(int number, List<@Nullable String> texts) {
    Map<String, String> values = new LinkedHashMap<>();
    for (int i = 0; i < texts.size(); i++) {
      if (i >= columns.size()) {
        columns.add(Layout.column(i));
      }
      if (texts.get(i) != null) {
        values.put(columns.get(i), texts.get(i));
      }
    }
    if (sheets.size() > 1) {
      values.putIfAbsent(Layout.SHEET, sheets.get(at).getName());
    }
    return new RawRow(number, values);
  }

  @Override
  public void close() throws IOException {
    if (stream != null) {
      stream.close();
    }
    workbook.close();
  }
}
