package hardproof.core.proof;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.copies.CopyState;
import hardproof.core.criteria.Standard;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What each point is worth, by hand and against a slow count of the same. */
class PointWorthTest {
  private static Given point(Given g, String key, String basedOn, double hoursAgo) {
    return g.point(
            key,
            "r",
            basedOn == null ? Form.FULL : Form.INCREMENTAL,
            basedOn,
            hoursAgo,
            PointOutcome.COMPLETE)
        .copy(key, "near");
  }

  private static Map<String, PointWorth> worth(Given g) {
    return PointWorth.of(g.at(NOW), Standard.shipped()).stream()
        .collect(Collectors.toMap(w -> w.point().key(), Function.identity()));
  }

  /** Tier 3: an RPO of 24 h and a reach of 14 d. */
  @Test
  void whatHangsFromAPointIsLostWithIt() {
    Given g = Given.estate();
    point(g, "old", null, 24 * 20);
    point(g, "full", null, 24 * 10);
    point(g, "middle", "full", 30);
    point(g, "newest", "middle", 5);
    Map<String, PointWorth> worth = worth(g);
    assertThat(worth.get("full").blastRadius()).isEqualTo(3);
    assertThat(worth.get("full").reachLost()).isZero();
    assertThat(worth.get("full").whyKeep()).isEqualTo("2 points hang from it");
    assertThat(worth.get("middle").whyKeep()).isEqualTo("1 point hangs from it");
    assertThat(worth.get("newest").blastRadius()).isEqualTo(1);
    assertThat(worth.get("newest").whyKeep())
        .isEqualTo("without it 30 h would be lost, over the RPO of 24 h");
    assertThat(worth.get("old").reachLost()).isEqualTo(Duration.ofDays(10));
    assertThat(worth.get("old").whyKeep())
        .isEqualTo("without it the reach would be 10 d, under the 14 d demanded");
    point(g, "older", null, 24 * 21);
    assertThat(worth(g).get("old").whyKeep())
        .as("another one reaches far enough")
        .isNull();
  }

  @Test
  void theOnlyOneIsKeptAndOneThatCantBeRestoredNeedNotBe() {
    Given g = Given.estate();
    point(g, "only", null, 5);
    g.point("torn", "r", Form.FULL, null, 2, PointOutcome.PARTIAL).copy("torn", "near");
    g.point("gone", "r", Form.FULL, null, 3, PointOutcome.COMPLETE)
        .copy("gone", "near", CopyState.DELETED, NOW.minusSeconds(60));
    Map<String, PointWorth> worth = worth(g);
    assertThat(worth.get("only").whyKeep()).isEqualTo("it is the only usable point");
    assertThat(worth.get("only").reachLost()).isEqualTo(Duration.ofHours(5));
    assertThat(worth.get("torn").usable()).isFalse();
    assertThat(worth.get("torn").whyNot()).isEqualTo("its outcome is partial");
    assertThat(worth.get("torn").whyKeep()).isNull();
    assertThat(worth.get("gone").whyNot()).contains("is deleted");
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
  void itIsWhatASlowCountFinds(long seed) {
    Random random = new Random(seed);
    Given g = Given.estate();
    for (int i = 0; i < 60; i++) {
      String base = i == 0 || random.nextInt(4) == 0 ? null : "p" + random.nextInt(i);
      PointOutcome outcome = random.nextInt(6) == 0 ? PointOutcome.FAILED : PointOutcome.COMPLETE;
      g.point("p" + i, "r", base == null ? Form.FULL : Form.INCREMENTAL, base, 100 - i, outcome);
      if (random.nextInt(8) > 0) {
        g.copy("p" + i, "near");
      }
    }
    Map<String, PointWorth> worth = worth(g);
    Map<String, String> bases = new HashMap<>();
    g.points.forEach(p -> bases.put(p.key(), p.basedOn()));
    List<RecoveryPoint> usable = g.points.stream()
        .filter(p -> worth.get(p.key()).usable())
        .sorted(Comparator.comparing(RecoveryPoint::dataTime))
        .toList();
    for (RecoveryPoint lost : g.points) {
      Set<String> with = new HashSet<>();
      for (RecoveryPoint p : g.points) {
        String at = p.key();
        while (at != null && !at.equals(lost.key())) {
          at = bases.get(at);
        }
        if (at != null) {
          with.add(p.key());
        }
      }
      Instant left = usable.stream()
          .filter(p -> !with.contains(p.key()))
          .map(RecoveryPoint::dataTime)
          .findFirst()
          .orElse(NOW);
      PointWorth found = worth.get(lost.key());
      assertThat(found.blastRadius()).as(lost.key()).isEqualTo(with.size());
      assertThat(found.reachLost())
          .as(lost.key())
          .isEqualTo(
              usable.isEmpty() ? Duration.ZERO : Duration.between(usable.get(0).dataTime(), left));
    }
  }
}
