package hardproof.core.facts;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.util.List;
import org.junit.jupiter.api.Test;

class TextsTest {
  private static Texts collected(List<String> texts) {
    Texts.Collector collector = new Texts.Collector();
    texts.forEach(collector::number);
    return collector.texts();
  }

  private static Texts read(Texts texts) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    out.write('x');
    texts.pack(out);
    return Texts.packed(out.toByteArray(), 1, texts.size());
  }

  @Test
  void eachTextHasOneNumber() {
    Texts.Collector collector = new Texts.Collector();
    assertThat(collector.number("a")).isZero();
    assertThat(collector.number("b")).isEqualTo(1);
    assertThat(collector.number("a")).isZero();
    assertThat(collector.texts().size()).isEqualTo(2);
    assertThat(collector.texts().numberOf("b")).isEqualTo(1);
    assertThat(collector.texts().numberOf("c")).isEqualTo(-1);
    assertThat(collector.texts().get(Column.NONE)).isNull();
  }

  /** Long ones, empty ones, ones that share more than a byte can count, and cut within a character. */
  @Test
  void packedTextsComeBack() {
    List<String> texts = List.of(
        "",
        "database-1",
        "database-2",
        "database",
        "é",
        "è",
        "x".repeat(300),
        "x".repeat(299) + "y",
        "z".repeat(70_000),
        "Größe 🚢",
        "Größe 🚣",
        "a\u0000b");
    Texts found = read(collected(texts));
    for (int i = 0; i < texts.size(); i++) {
      assertThat(found.get(i)).isEqualTo(texts.get(i));
      assertThat(found.numberOf(texts.get(i))).isEqualTo(i);
    }
    assertThat(found.numberOf("database-3")).isEqualTo(-1);
    assertThat(read(collected(List.of())).size()).isZero();
  }
}
