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
}
