package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.Given;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Criteria of a standard's own. */
class OwnCriterionTest {
  @Test
  void ownCriteriaComeAfterThoseThatShip() {
    OwnCriterion own = new OwnCriterion(
        "own-site",
        "At site A",
        "It stands at site A.",
        "site == 'A'",
        s -> Judgement.of(OutcomeState.NOT_MET, "it stands elsewhere", "site = B"));
    Standard base = Standard.shipped();
    Standard standard =
        new Standard("S", 2, base.period(), base.zone(), base.tiers(), Map.of(), List.of(own));
    Given g = Given.estate().point("a", 5);
    List<Outcome> outcomes =
        Criteria.evaluate(new Subject(g.at(NOW), standard, g.resources.get(0)));
    Outcome last = outcomes.get(outcomes.size() - 1);
    assertThat(last.criterion()).isEqualTo(own);
    assertThat(last.sentence()).isEqualTo("it stands elsewhere");
    assertThatThrownBy(() -> new OwnCriterion("site", "t", "d", "e", s -> null))
        .hasMessageContaining("'site' is no code for a criterion of your own");
    assertThatThrownBy(() -> new Standard(
            "S", 2, base.period(), base.zone(), base.tiers(), Map.of(), List.of(own, own)))
        .hasMessage("two criteria of your own have the same code");
  }
}
