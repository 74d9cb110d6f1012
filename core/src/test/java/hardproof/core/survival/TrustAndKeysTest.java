package hardproof.core.survival;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.losses.Loss;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import java.time.Duration;
import java.time.Instant;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Losses of trust in a feed, of places of keys and of people, of the estates of {@link SurvivalTest}. */
class TrustAndKeysTest {
  /** What came by a feed that is not trusted does not count, nor what hangs from it; what came by others does. */
  @Test
  void aFeedThatIsNotTrustedTaintsWhatItToldOf() {
    Given g = Given.estate()
        .point("old", 30)
        .point("full", 20)
        .point("inc", "r", Form.INCREMENTAL, "full", 5, PointOutcome.COMPLETE)
        .copy("inc", "near");
    toldBy(g, "full", "jobs");
    Loss all = ofFeed("jobs", null);
    assertThat(Tried.line(g, all).exposure()).isEqualTo(Duration.ofHours(30));
    assertThat(Tried.line(g, ofFeed("other", null)).exposure()).isEqualTo(Duration.ofHours(5));
    Instant at = NOW.minus(Duration.ofHours(20));
    assertThat(Tried.line(g, ofFeed("jobs", at)).exposure())
        .as("not after it")
        .isEqualTo(Duration.ofHours(5));
    assertThat(Tried.line(g, ofFeed("jobs", at.minusMillis(1))).exposure())
        .isEqualTo(Duration.ofHours(30));
    assertThat(all.words()).isEqualTo("what the feed jobs told of");
    assertThat(ofFeed("jobs", at).words()).isEqualTo("what the feed jobs told of after " + at);
  }

  private static Loss ofFeed(String feed, Instant after) {
    return new Loss(Set.of(), Set.of(), Set.of(), Set.of(), Set.of(), Set.of(feed), false, after);
  }

  private static void toldBy(Given g, String point, String feed) {
    g.points.replaceAll(p -> p.key().equals(point)
        ? new RecoveryPoint(
            p.key(),
            p.resource(),
            p.policy(),
            p.form(),
            p.basedOn(),
            p.times(),
            p.outcome(),
            p.taken(),
            p.content(),
            feed)
        : p);
  }

  /** A safe or a person with the only key takes what is encrypted; one of two does not. */
  @Test
  void whatIsLostWithItsOnlyKey() {
    Given g = Given.estate().point("a", 5).theResource("key_places", "safe of the notary");
    Loss safe = Loss.ofHolder("safe of the notary");
    assertThat(Tried.fate(g, safe)).as("it is not known to be encrypted").isEqualTo(Fate.SURVIVES);
    g.thePoint("a", "encrypted", "yes");
    assertThat(Tried.line(g, safe).sentence())
        .isEqualTo("nothing is left of R that can be opened: its keys are lost too");
    assertThat(Tried.of(g).ranking())
        .filteredOn(r -> r.loss().equals(safe))
        .singleElement()
        .extracting(r -> r.lost().size())
        .isEqualTo(1);
    g.theResource("key_places", "safe of the notary;Jonas Brae;A");
    assertThat(Tried.fate(g, safe)).isEqualTo(Fate.SURVIVES);
    assertThat(Tried.of(g).holders()).containsExactly("Jonas Brae", "safe of the notary");
    assertThat(Tried.of(g).onlyHolders()).isEmpty();
  }

  /** Nobody left who can: neither lost nor saved, but nobody knows. */
  @Test
  void withoutAnybodyWhoCanItIsNotKnown() {
    Given g = Given.estate().point("a", 5).theResource("restorers", "Ada;Bo");
    assertThat(Tried.fate(g, Loss.ofHolder("Ada"))).isEqualTo(Fate.SURVIVES);
    Loss both = new Loss(
        Set.of(), Set.of(), Set.of(), Set.of(), Set.of("Ada", "Bo"), Set.of(), false, null);
    assertThat(Tried.line(g, both).sentence())
        .isEqualTo("nobody is left of those who can bring R back: Ada and Bo");
    assertThat(Tried.fate(g, both)).isEqualTo(Fate.NOT_KNOWN);
    assertThat(both.words()).isEqualTo("Ada, Bo");
  }
}
