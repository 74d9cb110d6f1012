package hardproof.core.wording;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class TitleTest {
  @ParameterizedTest
  @ValueSource(strings = {"Q3", "=1+1", "Raport źródłowy", "דוח שחזור", "年次報告", "<b>bold</b>"})
  void whatReadsAsItIsWrittenIsATitle(String title) {
    assertThat(Title.of("  " + title + " ")).isEqualTo(title);
  }

  @Test
  void atMostTwoHundredCharactersWhateverTheyTake() {
    assertThat(Title.of("😀".repeat(200))).hasSize(400);
    assertThatThrownBy(() -> Title.of("x".repeat(10_000)))
        .isInstanceOf(WrongValue.class)
        .hasMessage("a title has at most 200 characters, and this one has 10000");
    assertThatThrownBy(() -> Title.of("x".repeat(201))).isInstanceOf(WrongValue.class);
  }

  /** Right-to-left override, zero width, a control character, a line break, half a pair: Unicode, chapter 4.5. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "a\u202Ecod.exe",
        "a\u200Bb",
        "a\u0007b",
        "a\nb",
        "a\uD800b",
        "a\u2028b",
        "a\uFFFEb"
      })
  void whatCantBeSeenIsRefusedAndNamed(String title) {
    assertThatThrownBy(() -> Title.of(title))
        .isInstanceOf(WrongValue.class)
        .hasMessageContaining("U+");
  }

  @Test
  void nothingIsNoTitle() {
    assertThatThrownBy(() -> Title.of(" \t "))
        .isInstanceOf(WrongValue.class)
        .hasMessage("a title is asked for");
  }
}
