package hardproof.server.feeds;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.LinkedHashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;

class RowValuesTest {
  private static Map<String, String> row(String... values) {
    Map<String, Integer> columns = new LinkedHashMap<>();
    columns.put("key", 0);
    columns.put("name", 1);
    columns.put("tier", 2);
    return new RowValues(columns, values);
  }

  /** To whoever reads it, it is a map of what the row has. */
  @Test
  void itIsAMapOfWhatIsThere() {
    Map<String, String> row = row("a", null, "3");
    assertThat(row).isEqualTo(Map.of("key", "a", "tier", "3")).hasSize(2);
    assertThat(row.get("name")).isNull();
    assertThat(row.get("colour")).isNull();
    assertThat(row.containsKey("tier")).isTrue();
    assertThat(row.containsKey("name")).isFalse();
    assertThat(row.keySet()).containsExactly("key", "tier");
    assertThat(row(null, null, null)).isEmpty();
  }
}
