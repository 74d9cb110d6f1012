package hardproof.core.forecast;

import static hardproof.core.forecast.Ahead.NIGHTS;
import static hardproof.core.forecast.Ahead.asNeeded;
import static hardproof.core.forecast.Ahead.drilled;
import static hardproof.core.forecast.Ahead.forecast;
import static hardproof.core.forecast.Ahead.forecaster;
import static hardproof.core.forecast.Ahead.one;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.forecast.Forecast.Why;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.ProgrammeTerms;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What would prevent lapses. Invented data. */
class CureTest {
  @Test
  void whatWouldHelpIsFoundByTryingIt() {
    Given g = drilled(40, 178.6, Duration.ofHours(1));
    Capacity one = NIGHTS.with(1);
    List<Cure> cures = tried(g, one);
    assertThat(cures)
        .filteredOn(Cure::helps)
        .extracting(Cure::what)
        .containsExactly("one more drill at once (2)", "one hour more a night (22:00-07:00)");
    assertThat(cures)
        .filteredOn(c -> !c.helps())
        .extracting(Cure::what)
        .containsExactly(
            "drilling by the least that each tier demands",
            "drilling from any copy that can be read",
            "drilling as needed instead of by rules");
    Forecast before = forecast(g, one, asNeeded());
    Forecast after = forecast(g, one.with(2), asNeeded());
    assertThat(before.gaps()).hasSize(32).allMatch(gap -> gap.why() == Why.CAPACITY);
    assertThat(before.gaps().get(0).sentence())
        .isEqualTo("the nights before have no room for its drill of 1 h");
    assertThat(cures.get(0).fewer())
        .isEqualTo(before.gaps().size() - after.gaps().size());
    assertThat(cures.get(0).missing()).isEqualTo(after.missing());
    assertThat(tried(one(1), one)).as("nothing lapses").isEmpty();
    assertThat(tried(g, one.withRoom(500L)))
        .extracting(Cure::what)
        .contains("twice the room for sandboxes (1.00 kB)");
    assertThat(tried(g, Capacity.usual().with(Capacity.AT_ONCE_AT_MOST)))
        .as("no more at once, and no more hours than all day")
        .noneMatch(c -> c.what().startsWith("one "));
  }

  private static List<Cure> tried(Given g, Capacity capacity) {
    return Arrays.stream(Cure.Way.values())
        .flatMap(way -> Cure.tried(
            way,
            p -> forecaster(g, p.toArray(ProgrammeTerms[]::new)),
            List.of(asNeeded()),
            capacity,
            Forecaster.AHEAD)
            .stream())
        .toList();
  }
}
