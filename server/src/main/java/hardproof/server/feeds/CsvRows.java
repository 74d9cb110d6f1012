package hardproof.server.feeds;

import de.siegmar.fastcsv.reader.CommentStrategy;
import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import de.siegmar.fastcsv.reader.FieldMismatchStrategy;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Field;
import hardproof.core.feeds.RawRow;
import hardproof.core.feeds.Rejection;
import hardproof.core.recipes.Layout;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.charset.CharacterCodingException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** CSV by RFC 4180 with comma, semicolon or tab, whichever the header has most of. */
final class CsvRows implements Rows {
  private static final int HEADER_LOOK = 64 * 1024;

  private final String file;
  private final BundleFile type;
  private final CsvReader<CsvRecord> csv;
  private final java.util.Iterator<CsvRecord> records;
  private final List<String> header = new ArrayList<>();
  private final Map<String, Integer> columns = new LinkedHashMap<>();
  private final Layout layout;
  private long line = 1;
  private @Nullable CsvRecord first;

  /**
   * @param type whose columns it must have; null lets it have any, in lower case
   * @param layout of a report; as it plainly is for a file of the bundle
   */
  CsvRows(Reader text, String file, BundleFile type, Layout layout) throws IOException {
    this.file = file;
    this.type = type;
    this.layout = layout;
    BufferedReader buffered = new BufferedReader(text, HEADER_LOOK);
    boolean whole = layout.separator().equals("none");
    csv = CsvReader.builder()
        .fieldSeparator(separator(buffered))
        // A line that is one field means what stands in it, quotes as well.
        .quoteCharacter(whole ? '\u0002' : '"')
        .commentStrategy(CommentStrategy.NONE)
        .skipEmptyLines(true)
        .extraFieldStrategy(FieldMismatchStrategy.IGNORE)
        .missingFieldStrategy(FieldMismatchStrategy.IGNORE)
        .allowUnclosedQuote(false)
        .ofCsvRecord(buffered);
    records = csv.iterator();
    readHeader();
  }

  private char separator(BufferedReader text) throws IOException {
    switch (layout.separator()) {
      case "" -> {}
      case "none" -> {
        return '\u0001';
      }
      case "tab" -> {
        return '\t';
      }
      default -> {
        return layout.separator().charAt(0);
      }
    }
    text.mark(HEADER_LOOK);
    char[] start = new char[HEADER_LOOK - 1];
    int n = fill(text, start);
    text.reset();
    String first = new String(start, 0, Math.max(0, n))
        .lines()
        .skip(Math.max(0, layout.header() - 1))
        .findFirst()
        .orElse("");
    char best = ',';
    for (char candidate : new char[] {';', '\t', '|'}) {
      if (count(first, candidate) > count(first, best)) {
        best = candidate;
      }
    }
    return best;
  }

  private int fill(BufferedReader text, char[] start) throws IOException {
    int n;
    try {
      n = text.read(start);
    } catch (CharacterCodingException e) {
      throw notUtf8();
    }
    return n;
  }

  private static long count(String text, char wanted) {
    return text.chars().filter(c -> c == wanted).count();
  }

  private UnreadableFile notUtf8() {
    return new UnreadableFile(
        file, line, null, "is not UTF-8 text near this line; save the file as UTF-8");
  }

  private void readHeader() throws IOException {
    CsvRecord record = nextRecord();
    while (record != null && line < layout.header()) {
      record = nextRecord();
    }
    if (record == null) {
      throw new UnreadableFile(file, 0, null, "has no line of column names");
    }
    if (type == null) {
      List<@Nullable String> names = new ArrayList<>(record.getFields());
      if (layout.header() == 0) {
        names.replaceAll(n -> null);
        first = record;
      }
      for (String name : Columns.named(names)) {
        columns.put(name, header.size());
        header.add(name);
      }
      return;
    }
    Set<String> seen = addColumns(record);
    requireColumns(seen);
  }

  private Set<String> addColumns(CsvRecord record) throws UnreadableFile {
    Set<String> seen = new HashSet<>();
    for (String column : record.getFields()) {
      String name = column.strip().toLowerCase(Locale.ROOT);
      if (!type.hasColumn(name)) {
        throw new UnreadableFile(
            file,
            1,
            column,
            "is no column of " + type.code() + "; its columns are " + columns(false)
                + ". Rename or remove it, so that nothing is left out in silence");
      }
      if (!seen.add(name)) {
        throw new UnreadableFile(file, 1, column, "is there twice among the columns");
      }
      columns.put(name, header.size());
      header.add(name);
    }
    return seen;
  }

  private void requireColumns(Set<String> seen) throws UnreadableFile {
    List<String> missing = type.columns().stream()
        .filter(f -> f.required() && !seen.contains(f.name()))
        .map(Field::name)
        .toList();
    if (!missing.isEmpty()) {
      throw new UnreadableFile(
          file,
          1,
          null,
          "lacks the column " + String.join(", ", missing) + "; required are " + columns(true));
    }
  }

  @Override
  public boolean mayHave(String field) {
    return header.contains(field);
  }

  @Override
  public List<String> columns() {
    return header;
  }

  private String columns(boolean requiredOnly) {
    return type.columns().stream()
        .filter(f -> f.required() || !requiredOnly)
        .map(Field::name)
        .collect(Collectors.joining(", "));
  }

  private CsvRecord nextRecord() throws IOException {
    try {
      if (!records.hasNext()) {
        return null;
      }
      CsvRecord record = records.next();
      line = record.getStartingLineNumber();
      return record;
    } catch (CsvParseException e) {
      throw new UnreadableFile(
          file,
          line,
          null,
          "can't be read as CSV after this line: a quote is opened and not closed, or text follows a"
              + " closing quote. Double the quotes inside quoted fields");
    } catch (UncheckedIOException e) {
      if (e.getCause() instanceof CharacterCodingException) {
        throw notUtf8();
      }
      throw e.getCause();
    }
  }

  @Override
  public Next next() throws IOException {
    CsvRecord record = first == null ? nextRecord() : first;
    first = null;
    if (record == null) {
      return null;
    }
    List<String> fields = record.getFields();
    if (fields.size() != header.size() && !endsInNothing(fields)) {
      return wrongCount(fields);
    }
    String[] values = stripped(fields);
    return new Next(new RawRow(line, new RowValues(columns, values)), null);
  }

  /** Some reports end their rows, and not their names, in a separator. */
  private boolean endsInNothing(List<String> fields) {
    return type == null
        && fields.size() > header.size()
        && fields.subList(header.size(), fields.size()).stream().allMatch(String::isBlank);
  }

  private Next wrongCount(List<String> fields) {
    return new Next(
        null,
        new Rejection(
            file,
            line,
            null,
            null,
            "has " + fields.size() + " fields where the header has " + header.size()));
  }

  private String[] stripped(List<String> fields) {
    String[] values = new String[header.size()];
    for (int i = 0; i < values.length; i++) {
      String value = fields.get(i).strip();
      values[i] = value.isEmpty() ? null : value;
    }
    return values;
  }

  @Override
  public void close() throws IOException {
    csv.close();
  }
}
