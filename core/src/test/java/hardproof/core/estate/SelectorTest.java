package hardproof.core.estate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.Given;
import hardproof.core.estate.Selector.Condition;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class SelectorTest {
  private final Resource resource =
      Given.resource("pay-db", Kind.DATABASE, "w", null, Map.of("backup", "daily"));

  private boolean matches(Condition condition) {
    return Selector.allOf(condition).matches(resource, 2);
  }

  @Test
  void everyFieldCanBeSelectedBy() {
    assertThat(matches(Condition.is("kind", "database"))).isTrue();
    assertThat(matches(Condition.is("tag:backup", "none", "DAILY"))).isTrue();
    assertThat(matches(Condition.is("tier", "2"))).isTrue();
    assertThat(matches(Condition.is("name", "PAY*"))).isTrue();
    assertThat(matches(Condition.is("name", "pay"))).isFalse();
    assertThat(matches(Condition.is("key", "*.b"))).isFalse();
    assertThat(matches(Condition.is("feed", "feed"))).isTrue();
    assertThat(matches(Condition.is("workload", "w"))).isTrue();
    assertThat(matches(Condition.is("site", "B"))).isFalse();
    assertThat(matches(Condition.is("environment", "production"))).isTrue();
    assertThat(matches(Condition.is("region", "nordal"))).isTrue();
  }

  @Test
  void whatIsNotKnownMatchesNothing() {
    assertThat(matches(Condition.is("tag:absent", "x"))).isFalse();
    assertThat(Selector.allOf(Condition.is("tier", "1")).matches(resource, null))
        .isFalse();
  }

  @Test
  void allAnyAndNoneCombine() {
    Selector s = new Selector(
        List.of(Condition.is("kind", "database")),
        List.of(Condition.is("site", "A"), Condition.is("site", "B")),
        List.of(Condition.is("tier", "1")));
    assertThat(s.matches(resource, 2)).isTrue();
    assertThat(s.matches(resource, 1)).isFalse();
    assertThat(s.words())
        .isEqualTo("kind is database and (site is A or site is B) and not tier is 1");
    assertThat(Selector.EVERYTHING.matches(resource, null)).isTrue();
  }

  @Test
  void conditionsThatCannotBeRightAreRefused() {
    assertThatThrownBy(() -> Condition.is("colour", "red"))
        .hasMessageStartingWith("'colour' can't be selected by");
    assertThatThrownBy(() -> new Condition("kind", List.of()))
        .hasMessage("the condition on 'kind' names no value");
    assertThatThrownBy(() -> Condition.is("tag:", "x"))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void namedOneByOneCountsBesidesTheConditions() {
    Selector s = Selector.allOf(Condition.is("site", "B")).withAlso(List.of("pay-db", "pay-db"));
    assertThat(s.also()).containsExactly("pay-db");
    assertThat(s.matches(resource, 2)).isTrue();
    assertThat(s.words()).isEqualTo("site is B, and also pay-db");
    assertThat(s.explain(resource, 2).sentence()).isEqualTo("named one by one");
  }

  @Test
  void saysWhyItMatchesOrNot() {
    Selector s = new Selector(
        List.of(Condition.is("kind", "database"), Condition.is("environment", "test")),
        List.of(Condition.is("site", "A", "B")),
        List.of(Condition.is("tier", "4")));
    Selector.Explanation not = s.explain(resource, 2);
    assertThat(not.matches()).isFalse();
    assertThat(not.sentence()).isEqualTo("environment is production, not test");
    assertThat(not.nearly()).isTrue();
    Selector.Explanation two = s.explain(resource, 4);
    assertThat(two.against())
        .containsExactly("environment is production, not test", "tier is 4, which is left out");
    assertThat(two.nearly()).isFalse();
    Selector other = new Selector(List.of(), List.of(Condition.is("tag:absent", "x")), List.of());
    assertThat(other.explain(resource, 2).sentence()).isEqualTo("none of (tag absent is x) holds");
    assertThat(Selector.allOf(Condition.is("kind", "database"))
            .explain(resource, 2)
            .sentence())
        .isEqualTo("kind is database");
    assertThat(Selector.allOf(Condition.is("tier", "1")).explain(resource, null).sentence())
        .isEqualTo("tier is not known, 1 is wanted");
    assertThat(Selector.EVERYTHING.explain(resource, 2).sentence())
        .isEqualTo("nothing is asked of it");
  }
}
