package hardproof.core.evidence;

import java.util.regex.Pattern;

/** One cell of a CSV file by RFC 4180, made harmless for spreadsheets. */
public final class CsvCell {
  private CsvCell() {}

  /**
   * What a spreadsheet would run: = + - or @ (or their wide forms, which some read as the same) at the begin
   * of a cell, or after what some spreadsheets take for the end of a cell, whatever the quotes around it say.
   */
  private static final Pattern RUN =
      Pattern.compile("(^|[;|\t\r\n])([\"' ]*[=+\\-@\uFF1D\uFF0B\uFF0D\uFF20])");

  private static final Pattern NUMBER = Pattern.compile("-?\\d+(\\.\\d+)?");

  private static final Pattern TO_QUOTE = Pattern.compile("[\",\r\n]");

  /**
   * Quotes where RFC 4180 section 2 asks for it. Where a spreadsheet would run what is in a cell, an apostrophe
   * is put in front; plain numbers get none.
   */
  public static String of(Object value) {
    if (value == null) {
      return "";
    }
    String text = value.toString();
    if (plain(text)) {
      return text;
    }
    if (!NUMBER.matcher(text).matches()) {
      text = RUN.matcher(text).replaceAll("$1'$2");
      text = text.startsWith("\t") || text.startsWith("\r") ? "'" + text : text;
    }
    return TO_QUOTE.matcher(text).find() ? '"' + text.replace("\"", "\"\"") + '"' : text;
  }

  /** Whether there is nothing to look for in it: so it is with nearly all of millions of cells. */
  private static boolean plain(String text) {
    boolean begun = false;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (";|\t\r\n,\"".indexOf(c) >= 0
          || !begun && "=+-@\uFF1D\uFF0B\uFF0D\uFF20".indexOf(c) >= 0) {
        return false;
      }
      begun |= c != ' ' && c != '\'';
    }
    return true;
  }

  /** Cells with commas and the CRLF of RFC 4180. */
  public static String row(Object... cells) {
    StringBuilder row = new StringBuilder();
    for (int i = 0; i < cells.length; i++) {
      row.append(i == 0 ? "" : ",").append(of(cells[i]));
    }
    return row.append("\r\n").toString();
  }
}
