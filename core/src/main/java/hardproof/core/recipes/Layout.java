package hardproof.core.recipes;

import hardproof.core.wording.WrongValue;
import java.util.List;

/**
 * How rows lie in a file.
 *
 * @param header line or row of the column names, from 1; 0 where there is none: columns are then {@code column1},
 *     {@code column2} …
 * @param footers rows at the end that are none, such as a total
 * @param separator between the fields of a line: one of {@code , ; | tab}; {@code none} where each line is one field;
 *     empty to go by the file
 * @param sheets of a workbook, read one after another, each with the header in the same row; empty for its first
 * @param path to the array in JSON, such as {@code data.jobs}; empty for the top
 * @param filledDown columns whose empty fields mean what stands above, as cells do that were merged
 */
public record Layout(
    int header,
    int footers,
    String separator,
    List<String> sheets,
    String path,
    List<String> filledDown) {
  /** A column that holds the sheet a row is of. */
  public static final String SHEET = "sheet";

  private static final int FARTHEST_HEADER = 1000;
  private static final int MOST_FOOTERS = 100;
  private static final int MOST_NAMES = 200;
  private static final List<String> SEPARATORS = List.of("", ",", ";", "|", "tab", "none");

  /** Names in the first line, fields divided by whatever the file has, nothing else around. */
  public static final Layout PLAIN = new Layout(1, 0, "", List.of(), "", List.of());

  /**
   * @throws WrongValue with what can't be right
   */
  public Layout {
    if (header < 0 || header > FARTHEST_HEADER) {
      throw new WrongValue("column names stand in line 1 to " + FARTHEST_HEADER
          + ", or 0 where there are none; " + header + " is neither");
    }
    if (footers < 0 || footers > MOST_FOOTERS) {
      throw new WrongValue("0 to " + MOST_FOOTERS + " rows at the end can be left out");
    }
    if (!SEPARATORS.contains(separator)) {
      throw new WrongValue("'" + separator + "' divides no fields; use , ; | tab or none");
    }
    if (sheets.size() > MOST_NAMES || filledDown.size() > MOST_NAMES) {
      throw new WrongValue("more than " + MOST_NAMES + " sheets or columns are named");
    }
    sheets = List.copyOf(sheets);
    filledDown = List.copyOf(filledDown);
  }

  /** The name of a column that has none, by its place from 0. */
  public static String column(int place) {
    return "column" + (place + 1);
  }
}
