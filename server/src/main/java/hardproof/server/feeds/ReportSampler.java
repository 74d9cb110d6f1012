package hardproof.server.feeds;

import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import de.siegmar.fastcsv.reader.FieldMismatchStrategy;
import hardproof.core.recipes.HeaderGuess;
import hardproof.core.recipes.HeaderGuess.Line;
import hardproof.core.recipes.Layout;
import hardproof.core.recipes.ReportTable;
import java.io.BufferedInputStream;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.CharacterCodingException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.Row;
import org.dhatim.fastexcel.reader.Sheet;
import org.dhatim.fastexcel.reader.SheetVisibility;
import org.jspecify.annotations.Nullable;

/** Reads the first rows of somebody else's report, whatever its form, and finds out how they lie in it. */
final class ReportSampler {
  private static final int ROWS = 400;
  private static final int LAST = 8;
  private static final List<String> SEPARATORS = List.of(",", ";", "tab", "|");

  private ReportSampler() {}

  /** The first and the last rows of a table. */
  private record Ends(List<Line> first, List<Line> last, long rows) {}

  /** @throws UnreadableFile when nothing of it can be read */
  static ReportTable sample(Path path, String name) throws IOException {
    Layout layout = Rows.isWorkbook(name)
        ? workbook(path, name)
        : Rows.isJson(name) ? json(path, name) : text(path, name);
    Layout filled = layout;
    ReportTable table = read(path, name, layout);
    List<String> down = grouped(table);
    if (!down.isEmpty()) {
      filled = new Layout(
          layout.header(),
          layout.footers(),
          layout.separator(),
          layout.sheets(),
          layout.path(),
          down);
      table = read(path, name, filled);
    }
    return table;
  }

  private static ReportTable read(Path path, String name, Layout layout) throws IOException {
    Set<String> columns = new LinkedHashSet<>();
    List<hardproof.core.feeds.RawRow> read = new ArrayList<>();
    try (Rows rows = Rows.report(path, name, layout, ImportProgress.UNWATCHED)) {
      if (rows.columns() != null) {
        columns.addAll(rows.columns());
      }
      Rows.Next next;
      while (read.size() < ROWS && (next = rows.next()) != null) {
        if (next.row() != null) {
          read.add(next.row());
          columns.addAll(next.row().values().keySet());
        }
      }
    }
    List<String> names = List.copyOf(columns);
    List<List<@Nullable String>> cells = new ArrayList<>();
    String[] above = new String[names.size()];
    for (var row : read) {
      List<@Nullable String> line = new ArrayList<>();
      for (int i = 0; i < names.size(); i++) {
        String value = row.values().get(names.get(i));
        if (value == null && layout.filledDown().contains(names.get(i))) {
          value = above[i];
        }
        above[i] = value;
        line.add(value);
      }
      cells.add(line);
    }
    return new ReportTable(layout, names, cells);
  }

  /** The first columns, where they have something only in the first row of each group. */
  private static List<String> grouped(ReportTable table) {
    List<String> grouped = new ArrayList<>();
    for (int i = 0; i < table.columns().size(); i++) {
      int at = i;
      List<String> values = new ArrayList<>();
      table.rows().forEach(r -> values.add(r.get(at)));
      List<String> given = values.stream().filter(v -> v != null).toList();
      boolean groups = values.size() > 2
          && values.get(0) != null
          && given.size() * 5 < values.size() * 4
          && java.util.stream.IntStream.range(1, given.size())
              .noneMatch(g -> given.get(g).equals(given.get(g - 1)));
      if (!groups) {
        break;
      }
      grouped.add(table.columns().get(i));
    }
    return grouped.size() == table.columns().size() ? List.of() : grouped;
  }

  private static Layout text(Path path, String name) throws IOException {
    if (Files.size(path) == 0) {
      throw new UnreadableFile(name, 0, null, "is empty");
    }
    List<String> first = new ArrayList<>();
    Deque<String> last = new ArrayDeque<>();
    long lines = 0;
    try (InputStream bytes = new BufferedInputStream(Files.newInputStream(path), 1 << 16);
        BufferedReader reader = new BufferedReader(Rows.text(name, bytes))) {
      String line;
      while ((line = reader.readLine()) != null) {
        lines++;
        if (first.size() < ROWS) {
          first.add(line);
        }
        last.add(line);
        if (last.size() > LAST) {
          last.poll();
        }
      }
    } catch (CharacterCodingException e) {
      throw new UnreadableFile(
          name, lines, null, "is not UTF-8 text near this line; save the file as UTF-8");
    }
    String separator = separator(first);
    List<Line> head = lines(String.join("\n", first), separator);
    List<Line> tail = lines(String.join("\n", last), separator);
    return new Layout(
        HeaderGuess.header(head),
        HeaderGuess.footers(head, tail),
        separator,
        List.of(),
        "",
        List.of());
  }

  /** The one by which the most lines have the same number of fields, more than one. */
  private static String separator(List<String> lines) {
    String text = String.join("\n", lines);
    String best = "none";
    double most = 0;
    for (String separator : SEPARATORS) {
      List<Line> read = lines(text, separator);
      int[] widths = read.stream().mapToInt(l -> l.cells().size()).sorted().toArray();
      if (widths.length == 0) {
        continue;
      }
      int usual = widths[widths.length / 2];
      double same = Arrays.stream(widths).filter(w -> w == usual).count() / (double) widths.length;
      double score = usual < 2 || same < 0.5 ? 0 : same + usual / 1000.0;
      if (score > most) {
        most = score;
        best = separator;
      }
    }
    return best;
  }

  /** As far as it can be read: the sample may be cut within a field in quotes. */
  private static List<Line> lines(String text, String separator) {
    List<Line> lines = new ArrayList<>();
    boolean whole = separator.equals("none");
    try (CsvReader<CsvRecord> csv = CsvReader.builder()
        .fieldSeparator(whole ? '\u0001' : separator.equals("tab") ? '\t' : separator.charAt(0))
        .quoteCharacter(whole ? '\u0002' : '"')
        .skipEmptyLines(true)
        .extraFieldStrategy(FieldMismatchStrategy.IGNORE)
        .missingFieldStrategy(FieldMismatchStrategy.IGNORE)
        .allowUnclosedQuote(true)
        .ofCsvRecord(text)) {
      for (CsvRecord record : csv) {
        lines.add(new Line((int) record.getStartingLineNumber(), List.copyOf(record.getFields())));
      }
    } catch (CsvParseException e) {
      // What came before counts.
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return lines;
  }

  /** The sheet with the most rows below names, with those that have the same names in the same row. */
  private static Layout workbook(Path path, String name) throws IOException {
    Layout best = null;
    long most = -1;
    try (ReadableWorkbook workbook = Workbooks.open(path, name)) {
      SheetCells cells = new SheetCells(workbook.isDate1904());
      List<Sheet> sheets = workbook
          .getSheets()
          .filter(s -> s.getVisibility() == SheetVisibility.VISIBLE)
          .toList();
      List<String> bestNames = List.of();
      List<String> chosen = new ArrayList<>();
      for (Sheet sheet : sheets) {
        Ends ends = ends(sheet, cells);
        int header = HeaderGuess.header(ends.first());
        List<String> names = names(ends, header);
        if (best != null
            && header == best.header()
            && !names.isEmpty()
            && names.equals(bestNames)) {
          chosen.add(sheet.getName());
        } else if (ends.rows() > most) {
          most = ends.rows();
          bestNames = names;
          chosen.clear();
          chosen.add(sheet.getName());
          best = new Layout(
              header, HeaderGuess.footers(ends.first(), ends.last()), "", List.of(), "", List.of());
        }
      }
      if (best == null || most == 0) {
        throw new UnreadableFile(name, 0, null, "has no sheet with anything in it");
      }
      return new Layout(best.header(), best.footers(), "", chosen, "", List.of());
    } catch (RuntimeException e) {
      throw new UnreadableFile(name, 0, null, "can't be read as a workbook: " + Workbooks.words(e));
    }
  }

  private static List<String> names(Ends ends, int header) {
    return ends.first().stream()
        .filter(l -> l.number() == header)
        .findFirst()
        .map(l -> Columns.named(l.cells()))
        .orElse(List.of());
  }

  private static Ends ends(Sheet sheet, SheetCells cells) throws IOException {
    List<Line> first = new ArrayList<>();
    Deque<Line> last = new ArrayDeque<>();
    long[] rows = {0};
    try (Stream<Row> stream = sheet.openStream()) {
      stream.forEach(row -> {
        List<@Nullable String> texts = cells.texts(row);
        if (texts.isEmpty()) {
          return;
        }
        Line line = new Line(row.getRowNum(), Collections.unmodifiableList(texts));
        rows[0]++;
        if (first.size() < ROWS) {
          first.add(line);
        }
        last.add(line);
        if (last.size() > LAST) {
          last.poll();
        }
      });
    }
    return new Ends(first, List.copyOf(last), rows[0]);
  }

  private static Layout json(Path path, String name) throws IOException {
    return new Layout(1, 0, "", List.of(), JsonArrays.longest(path, name), List.of());
  }
}
