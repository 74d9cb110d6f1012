package hardproof.core.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class CsvCellTest {
  @ParameterizedTest
  @ValueSource(strings = {"=1+1", "+cmd", "-cmd", "@SUM(A1)", "\tx"})
  void whatASpreadsheetWouldRunIsNeutralised(String cell) {
    assertThat(CsvCell.of(cell)).isEqualTo("'" + cell);
  }

  /** Before the first letter there may be what a spreadsheet passes over. */
  @ParameterizedTest
  @ValueSource(strings = {" =1", "' @x", "'+1 2", "  -1"})
  void whatStandsBeforeItDoesNotHideIt(String cell) {
    assertThat(CsvCell.of(cell)).isEqualTo("'" + cell);
  }

  /** RFC 4180 section 2, rules 6 and 7. */
  @Test
  void quotesByRfc4180() {
    assertThat(CsvCell.of("a,b")).isEqualTo("\"a,b\"");
    assertThat(CsvCell.of("b\"bb")).isEqualTo("\"b\"\"bb\"");
    assertThat(CsvCell.of("b\r\nbb")).isEqualTo("\"b\r\nbb\"");
    assertThat(CsvCell.of("=a,b")).isEqualTo("\"'=a,b\"");
    // Where a list is split at ; or at a line, whatever stands around it (OWASP, "CSV Injection").
    assertThat(CsvCell.of("a;=1")).isEqualTo("a;'=1");
    assertThat(CsvCell.of("a; \"@b")).isEqualTo("\"a;' \"\"@b\"");
    assertThat(CsvCell.of("a\n-b\t+c|=d")).isEqualTo("\"a\n'-b\t'+c|'=d\"");
    assertThat(CsvCell.of("\uFF1D1")).isEqualTo("'\uFF1D1");
    assertThat(CsvCell.of("a-b=c; d")).isEqualTo("a-b=c; d");
    assertThat(CsvCell.of(null)).isEmpty();
    assertThat(CsvCell.of(-4)).isEqualTo("-4");
    assertThat(CsvCell.row("a", null, 3)).isEqualTo("a,,3\r\n");
  }
}
