package hardproof.core.wording;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.drills.Method;
import hardproof.core.estate.Kind;
import hardproof.core.points.PointOutcome;
import org.junit.jupiter.api.Test;

class CodedTest {
  @Test
  void everyConstantIsFoundByItsCode() {
    for (Method method : Method.values()) {
      assertThat(Coded.find(Method.class, method.code())).contains(method);
    }
    for (Kind kind : Kind.values()) {
      assertThat(Coded.of(Kind.class, kind.code())).isEqualTo(kind);
    }
    assertThat(Method.READ_THROUGH.code()).isEqualTo("read-through");
  }

  @Test
  void caseSpacesAndUnderscoresDoNotMatter() {
    assertThat(Coded.find(Method.class, " Read_Through ")).contains(Method.READ_THROUGH);
    assertThat(Coded.find(Method.class, "READ THROUGH")).contains(Method.READ_THROUGH);
    assertThat(Coded.find(Method.class, "readthrough")).isEmpty();
    assertThat(Coded.find(Method.class, "")).isEmpty();
  }

  @Test
  void whatIsNoneIsRefusedWithThoseThatThereAre() {
    assertThatThrownBy(() -> Coded.of(PointOutcome.class, "fine"))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessage("'fine' is not one of complete, partial, failed");
    assertThat(Coded.codes(PointOutcome.class)).isEqualTo("complete, partial, failed");
  }
}
