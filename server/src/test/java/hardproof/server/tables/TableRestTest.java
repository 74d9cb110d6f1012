package hardproof.server.tables;

import static org.assertj.core.api.Assertions.assertThat;

import de.siegmar.fastcsv.reader.CsvReader;
import hardproof.server.WithServer;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class TableRestTest extends WithServer {
  /** Read by another's reader of RFC 4180. */
  @Test
  void aListIsCsvThatASpreadsheetDoesNotRun() {
    var answer = client.post(
        "/api/table",
        "{\"columns\":[\"name\",\"tier\",\"why\"],\"rows\":[[\"a, \\\"b\\\"\\nc\",-3,\"\"],[\"=1+1\",2.5,\"x;@y\"],[\"Łódź\",true,\"\"]]}");
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    try (var csv = CsvReader.builder().ofCsvRecord(answer.body())) {
      assertThat(csv.stream().map(r -> r.getFields()))
          .containsExactly(
              List.of("name", "tier", "why"),
              List.of("a, \"b\"\nc", "-3", ""),
              List.of("'=1+1", "2.5", "x;'@y"),
              List.of("Łódź", "true", ""));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "{}",
        "{\"columns\":[],\"rows\":[]}",
        "{\"columns\":[\"a\"],\"rows\":[[1,2]]}",
        "{\"columns\":[\"a\"],\"rows\":[null]}",
        "{\"columns\":[\"a\"],\"rows\":[[null]]}",
        "{\"columns\":[\"a\"]}",
        "[]"
      })
  void whatIsNoTableIsRefused(String body) {
    assertThat(client.post("/api/table", body).status()).isEqualTo(400);
  }
}
