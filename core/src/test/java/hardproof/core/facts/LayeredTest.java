package hardproof.core.facts;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

class LayeredTest {
  /** Whatever is put on it in whatever portions, it is a map with all of that; those before stay as they were. */
  @Test
  void itIsWhatAPlainMapWouldBe() {
    Random random = new Random(3);
    Map<String, Integer> plain = new HashMap<>();
    for (int i = 0; i < 100; i++) {
      plain.put("k" + i, i);
    }
    Layered<Integer> layered = Layered.of(Map.copyOf(plain));
    Layered<Integer> first = layered;
    boolean small = false;
    for (int round = 0; round < 200; round++) {
      Map<String, Integer> others = new HashMap<>();
      for (int i = 0; i < random.nextInt(5); i++) {
        others.put("k" + random.nextInt(120), 1000 + round);
      }
      plain.putAll(others);
      layered = layered.with(others);
      small |= !layered.top().isEmpty();
      for (int i = 0; i < 125; i++) {
        assertThat(layered.get("k" + i)).isEqualTo(plain.get("k" + i));
      }
    }
    assertThat(small).as("not all of it was copied each time").isTrue();
    assertThat(first.get("k7")).isEqualTo(7);
  }
}
