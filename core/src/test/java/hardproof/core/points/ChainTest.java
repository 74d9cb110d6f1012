package hardproof.core.points;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;

class ChainTest {
  private final Map<String, RecoveryPoint> points = new HashMap<>();

  private RecoveryPoint point(String key, Form form, String base) {
    RecoveryPoint point = new RecoveryPoint(
        key,
        "r",
        null,
        form,
        base,
        new RecoveryPoint.Times(Instant.EPOCH, null, Instant.EPOCH),
        PointOutcome.COMPLETE,
        new RecoveryPoint.Taken(Consistency.FILE, null, null),
        new RecoveryPoint.Content(null, null, null),
        "feed");
    points.put(key, point);
    return point;
  }

  @Test
  void aFullIsAChainOfOne() {
    Chain chain = Chain.of(point("f", Form.FULL, null), points::get);
    assertThat(chain.whole()).isTrue();
    assertThat(chain.length()).isEqualTo(1);
  }

  @Test
  void pointsComeFullFirst() {
    point("f", Form.FULL, null);
    point("i1", Form.INCREMENTAL, "f");
    Chain chain = Chain.of(point("i2", Form.INCREMENTAL, "i1"), points::get);
    assertThat(chain.points()).extracting(RecoveryPoint::key).containsExactly("f", "i1", "i2");
  }

  @Test
  void namesTheMissingPoint() {
    Chain chain = Chain.of(point("i2", Form.INCREMENTAL, "i1"), points::get);
    assertThat(chain.breakSentence()).isEqualTo("i2 is based on i1, which is missing");
  }

  @Test
  void anIncrementalWithoutABaseIsBroken() {
    Chain chain = Chain.of(point("i", Form.INCREMENTAL, null), points::get);
    assertThat(chain.breakSentence())
        .isEqualTo("i is incremental and names no point that it is based on");
  }

  @Test
  void aCircleIsBrokenAndEnds() {
    point("a", Form.INCREMENTAL, "b");
    Chain chain = Chain.of(point("b", Form.INCREMENTAL, "a"), points::get);
    assertThat(chain.breakSentence()).isEqualTo("the chain goes in a circle at b");
  }
}
