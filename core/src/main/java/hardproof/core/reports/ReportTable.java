package hardproof.core.reports;

import hardproof.core.evidence.CsvCell;
import java.util.List;

/**
 * A table of a report.
 *
 * @param name as the name of a file, such as {@code jobs}
 * @param columns names, in snake case, with their unit
 * @param rows a cell for each column; null where nothing is known
 * @param none what to say where there are no rows: silence would read as if nobody had looked
 */
public record ReportTable(
    String name, String title, List<String> columns, List<List<Object>> rows, String none) {
  /** By RFC 4180, harmless for spreadsheets. */
  public String csv() {
    StringBuilder csv = new StringBuilder(CsvCell.row(columns.toArray()));
    rows.forEach(row -> csv.append(CsvCell.row(row.toArray())));
    return csv.toString();
  }
}
