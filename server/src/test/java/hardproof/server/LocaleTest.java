package hardproof.server;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** Where names of files can't be written, nothing is started that would blame the data for it. */
class LocaleTest {
  @Test
  void itStartsOnlyWhereNamesAreUtf8() {
    assertThat(HardProof.refusal("UTF-8")).isNull();
    assertThat(HardProof.refusal("utf-8")).isNull();
    for (String other : new String[] {"ANSI_X3.4-1968", "ISO-8859-1", null}) {
      assertThat(HardProof.refusal(other)).contains("LC_ALL=C.UTF-8", "Zürich");
    }
  }
}
