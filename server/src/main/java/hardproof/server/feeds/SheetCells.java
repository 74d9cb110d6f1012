package hardproof.server.feeds;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.dhatim.fastexcel.reader.Row;
import org.jspecify.annotations.Nullable;

/** What cells hold, as texts; a number that is shown as a date is one. */
final class SheetCells {
  /** A workbook counts days from one of two (ISO/IEC 29500-1, 18.17.4.1); the first of them has a 29 February 1900. */
  private static final LocalDateTime FROM_1900 = LocalDateTime.of(1899, 12, 30, 0, 0);

  private static final LocalDateTime FROM_1904 = LocalDateTime.of(1904, 1, 1, 0, 0);
  private static final int FALSE_DAY = 60;
  private static final BigDecimal MILLISECONDS = BigDecimal.valueOf(86_400_000L);
  private static final BigDecimal LAST_DAY = BigDecimal.valueOf(2_958_466);

  private final boolean from1904;

  SheetCells(boolean from1904) {
    this.from1904 = from1904;
  }

  /** Null where a cell is empty or in error: what it should hold is not known. */
  List<@Nullable String> texts(Row row) {
    List<@Nullable String> texts = new ArrayList<>();
    for (int i = 0; i < row.getCellCount(); i++) {
      String text = row.getOptionalCell(i).map(this::text).orElse(null);
      texts.add(text == null || text.isBlank() ? null : text.strip());
    }
    while (!texts.isEmpty() && texts.get(texts.size() - 1) == null) {
      texts.remove(texts.size() - 1);
    }
    return texts;
  }

  private @Nullable String text(Cell cell) {
    if (cell.getType() == CellType.ERROR || cell.getValue() == null) {
      return null;
    }
    Object value = cell.getValue();
    if (cell.getType() == CellType.FORMULA && cell.getRawValue() != null) {
      // What it came to, as it was saved: a number where it is one.
      String raw = cell.getRawValue().strip();
      value = raw.matches("-?\\d+(\\.\\d+)?([eE][-+]?\\d+)?") ? new BigDecimal(raw) : raw;
      if (raw.startsWith("#")) {
        return null;
      }
    }
    if (value instanceof BigDecimal number) {
      return number(number, cell);
    } else if (value instanceof Boolean yes) {
      return yes.toString();
    }
    return value.toString();
  }

  private String number(BigDecimal number, Cell cell) {
    boolean day = isDate(cell.getDataFormatId(), cell.getDataFormatString())
        && number.signum() >= 0
        && number.compareTo(LAST_DAY) < 0;
    return day ? time(number) : number.stripTrailingZeros().toPlainString();
  }

  /** By its format: one of the built-in ones for dates and times, or one that writes years, days or hours. */
  static boolean isDate(@Nullable Integer id, @Nullable String format) {
    if (id != null && (id >= 14 && id <= 22 || id >= 45 && id <= 47)) {
      return true;
    }
    if (format == null) {
      return false;
    }
    String bare = format.replaceAll("\"[^\"]*\"|\\\\.|_.|\\[[^hHmMsS\\]][^\\]]*\\]", "");
    return bare.matches("(?i).*(y|d|h|m+/|:mm|mm:).*") && !bare.matches("(?i).*general.*");
  }

  private String time(BigDecimal serial) {
    BigDecimal days = serial.setScale(0, RoundingMode.FLOOR);
    long of = serial
        .subtract(days)
        .multiply(MILLISECONDS)
        .setScale(0, RoundingMode.HALF_UP)
        .longValueExact();
    LocalDateTime first =
        from1904 ? FROM_1904 : days.intValueExact() < FALSE_DAY ? FROM_1900.plusDays(1) : FROM_1900;
    LocalDateTime at = first.plusDays(days.longValueExact()).plus(of, ChronoUnit.MILLIS);
    // Fractions of days are binary: what is a whole second is seldom written as one.
    LocalDateTime second = at.plus(500, ChronoUnit.MILLIS).truncatedTo(ChronoUnit.SECONDS);
    boolean whole = Math.abs(ChronoUnit.MILLIS.between(at, second)) <= 1;
    LocalDateTime shown = whole ? second : at;
    return shown.toLocalDate() + "T"
        + (shown.toLocalTime().equals(LocalTime.MIDNIGHT) ? "00:00:00" : clock(shown));
  }

  private static String clock(LocalDateTime at) {
    String clock = at.toLocalTime().toString();
    return clock.length() == 5 ? clock + ":00" : clock;
  }
}
