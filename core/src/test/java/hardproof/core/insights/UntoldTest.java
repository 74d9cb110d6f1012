package hardproof.core.insights;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Standard;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Kind;
import hardproof.core.facts.Estate;
import hardproof.core.proof.Evaluator;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What the one feed of an invented estate tells, and another that tells of a resource alone. */
class UntoldTest {
  private static List<Untold> all(Given g) {
    Estate estate = g.at(NOW);
    return Untold.of(estate, Evaluator.evaluate(estate, Standard.shipped()));
  }

  private static Given told(String... feeds) {
    Given g = Given.estate().theWorkload("tier", "1");
    for (String feed : feeds) {
      g.feeds.add(new Feed(feed, Duration.ofHours(24), NOW, NOW));
    }
    return g;
  }

  private static List<String> lacks(Untold untold, String kind) {
    return untold.lacks().stream()
        .filter(l -> l.kind().equals(kind))
        .findFirst()
        .map(Untold.Lack::fields)
        .orElse(List.of());
  }

  @Test
  void oneRowThatHasAFieldIsEnough() {
    Given g = told("feed").point("a", 30).point("b", 5);
    Untold untold = all(g).get(0);
    assertThat(untold.told()).containsExactly("resources", "points", "copies");
    assertThat(lacks(untold, "points")).contains("encrypted").doesNotContain("size", "data_time");
    assertThat(lacks(untold, "copies")).contains("locked_until", "sha256").doesNotContain("place");
    g.thePoint("a", "encrypted", "no");
    g.theCopy("b", "far", "sha256", "0123456789abcdef".repeat(4));
    assertThat(lacks(all(g).get(0), "points")).doesNotContain("encrypted");
    assertThat(lacks(all(g).get(0), "copies")).doesNotContain("sha256");
  }

  /** Only the newest five of a resource say what is told now. */
  @Test
  void whatWasToldLongAgoIsNotToldNow() {
    Given g = told("feed").point("old", 100);
    g.thePoint("old", "encrypted", "yes");
    for (int i = 0; i < 4; i++) {
      g.point("p" + i, 50 - i);
    }
    assertThat(lacks(all(g).get(0), "points")).doesNotContain("encrypted");
    g.point("p5", 5);
    assertThat(lacks(all(g).get(0), "points")).contains("encrypted");
  }

  /** What nobody says can't be judged; once it is said of one resource it can of that one. */
  @Test
  void whatCanBeJudgedOfNoneIsNamed() {
    Given g = told("feed").point("a", 5);
    assertThat(all(g).get(0).unjudged()).contains(CriterionCode.SAFE_ENCRYPTED);
    g.thePoint("a", "encrypted", "yes");
    assertThat(all(g).get(0).unjudged())
        .doesNotContain(CriterionCode.SAFE_ENCRYPTED, CriterionCode.FRESH_EXPOSURE_NOW);
  }

  /** Of a feed that has fallen silent nothing is known because of that, whatever it tells. */
  @Test
  void silenceIsNotLaidToWhatItNeverTold() {
    Given g = told("feed").point("a", 5);
    g.feeds.set(
        0,
        new Feed(
            "feed",
            Duration.ofHours(24),
            NOW.minus(Duration.ofHours(48)),
            NOW.minus(Duration.ofHours(48))));
    assertThat(all(g).get(0).unjudged()).isEmpty();
    assertThat(lacks(all(g).get(0), "points")).contains("encrypted");
  }

  @Test
  void aFeedSpeaksForWhatItTellsOfOnly() {
    Given g = told("feed", "list", "nothing").point("a", 5);
    g.resources.add(Given.toldBy("list", Given.resource("x", Kind.VOLUME, "w")));
    List<Untold> all = all(g);
    assertThat(all).extracting(Untold::feed).containsExactly("feed", "list", "nothing");
    assertThat(all.get(1).told()).containsExactly("resources");
    assertThat(lacks(all.get(1), "resources")).contains("size", "agent_seen");
    assertThat(all.get(2).told()).isEmpty();
    assertThat(all.get(2).lacks()).isEmpty();
    assertThat(all.get(2).unjudged()).isEmpty();
  }
}
