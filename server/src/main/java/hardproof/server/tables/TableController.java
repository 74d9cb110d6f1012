package hardproof.server.tables;

import hardproof.core.evidence.CsvCell;
import hardproof.core.wording.WrongValue;
import io.swagger.v3.oas.annotations.Operation;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/**
 * A list as somebody sees it, filtered and sorted on the screen, as CSV. Nothing is looked up: whoever asks has the rows,
 * and what makes them harmless for spreadsheets is the same here as in packs.
 */
@RestController
class TableController {
  private static final int MOST_COLUMNS = 200;
  private static final int MOST_ROWS = 200_000;

  /**
   * A table.
   *
   * @param rows a cell for each column; an empty text for an empty one
   */
  record Table(List<String> columns, List<List<Object>> rows) {}

  @Operation(summary = "A list as it is seen, as CSV")
  @PostMapping(path = "/api/table", produces = "text/csv")
  ResponseEntity<byte[]> table(@RequestBody Table table) {
    refuse(table);
    StringBuilder csv = new StringBuilder(CsvCell.row(table.columns().toArray()));
    table.rows().forEach(row -> csv.append(CsvCell.row(row.toArray())));
    return ResponseEntity.ok()
        .contentType(new MediaType("text", "csv", StandardCharsets.UTF_8))
        .body(csv.toString().getBytes(StandardCharsets.UTF_8));
  }

  private static void refuse(Table table) {
    if (table.columns() == null || table.rows() == null || table.columns().isEmpty()) {
      throw new WrongValue("a table has columns and rows");
    }
    if (table.columns().size() > MOST_COLUMNS || table.rows().size() > MOST_ROWS) {
      throw new WrongValue(
          "a table has at most " + MOST_COLUMNS + " columns and " + MOST_ROWS + " rows");
    }
    for (int i = 0; i < table.rows().size(); i++) {
      List<Object> row = table.rows().get(i);
      if (row.size() != table.columns().size()) {
        throw new WrongValue("row " + (i + 1) + " has " + row.size() + " cells, and there are "
            + table.columns().size() + " columns");
      }
    }
  }
}
