package hardproof.core.evidence;

/** One cell of a CSV file by RFC 4180, made harmless for spreadsheets. */
public final class CsvCell {
  private CsvCell() {}

  /**
   * Quotes where RFC 4180 section 2 asks for it. A cell that begins with = + - @, tab or carriage
   * return gets an apostrophe in front, because a spreadsheet would run it; plain numbers do not.
   */
  public static String of(Object value) {
    if (value == null) {
      return "";
    }
    String text = value.toString();
    if (!text.isEmpty()
        && "=+-@\t\r".indexOf(text.charAt(0)) >= 0
        && !text.matches("-?\\d+(\\.\\d+)?")) {
      text = "'" + text;
    }
    boolean quote = text.matches("(?s).*[\",\r\n].*");
    return quote ? '"' + text.replace("\"", "\"\"") + '"' : text;
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
