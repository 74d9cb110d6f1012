package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.Collections;
import java.util.List;
import org.junit.jupiter.api.Test;

class DrillOptionsTest {
  private static DrillOptions sample(int files) {
    return new DrillOptions("", files, List.of(), null, null);
  }

  private static DrillOptions limit(Duration limit) {
    return new DrillOptions("", 1, List.of(), null, limit);
  }

  @Test
  void aSampleHasBounds() {
    assertThat(sample(1).sample()).isOne();
    assertThat(sample(DrillOptions.SAMPLE_MOST).sample()).isEqualTo(10_000);
    for (int wrong : new int[] {-1, 0, DrillOptions.SAMPLE_MOST + 1}) {
      assertThatThrownBy(() -> sample(wrong)).hasMessage("a sample is 1 to 10000 files");
    }
    List<String> many = Collections.nCopies(DrillOptions.SAMPLE_MOST + 1, "a");
    assertThatThrownBy(() -> new DrillOptions("", 1, many, null, null))
        .hasMessage("a sample is 1 to 10000 files");
  }

  @Test
  void aMachineHasATime() {
    assertThat(limit(null).bootLimit()).isEqualTo(Duration.ofMinutes(3));
    assertThat(limit(Duration.ofMinutes(30)).bootLimit()).isEqualTo(DrillOptions.BOOT_MOST);
    for (Duration wrong :
        List.of(Duration.ZERO, Duration.ofMillis(-1), Duration.ofMinutes(30).plusMillis(1))) {
      assertThatThrownBy(() -> limit(wrong))
          .hasMessage("a machine may take up to 30 minutes to start");
    }
  }

  @Test
  void aSeedIsStripped() {
    assertThat(new DrillOptions(" q4 ", 1, null, null, null).seed()).isEqualTo("q4");
    assertThat(new DrillOptions(null, 1, null, null, null).seed()).isEmpty();
    assertThatThrownBy(() -> new DrillOptions("x".repeat(101), 1, null, null, null))
        .hasMessage("a seed is at most 100 characters long");
  }
}
