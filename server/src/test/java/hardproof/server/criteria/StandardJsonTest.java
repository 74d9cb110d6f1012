package hardproof.server.criteria;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.criteria.ShippedStandards;
import hardproof.core.criteria.Standard;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import hardproof.server.web.Conflict;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Standards as they are kept and as they stand in a pack. */
class StandardJsonTest extends WithEstate {
  private static Standard own() {
    Standard base = ShippedStandards.strict();
    return new Standard(
        "Tarnwick",
        1,
        Duration.ofDays(90),
        ZoneId.of("Europe/Oslo"),
        base.tiers(),
        Map.of("personal", List.of("nordal", "home")),
        List.of(CelCriterion.of("own-x", "X", "It is so.", "tags['x'] == 'y' || has(tags.z)")));
  }

  @Test
  void whatIsWrittenIsReadBack() {
    for (Standard standard :
        List.of(ShippedStandards.sensible(), ShippedStandards.strict(), own())) {
      assertThat(StandardJson.read(StandardJson.write(standard))).isEqualTo(standard);
    }
  }

  @Test
  void whatIsNoStandardIsRefused() {
    assertThatThrownBy(() -> StandardJson.read("[")).hasMessage("is not a standard in JSON");
    String json = StandardJson.write(own());
    assertThatThrownBy(() -> StandardJson.read(json.replace("\"rpo\"", "\"speed\"")))
        .hasMessageContaining("'speed' is not one of rpo, rto");
    assertThatThrownBy(() -> StandardJson.read(json.replace("Europe/Oslo", "Narnia")))
        .hasMessageContaining("period or zone");
    assertThatThrownBy(() -> StandardJson.read(json.replace("|| has", "|| if")))
        .isInstanceOf(CelCriterion.WrongExpression.class)
        .hasMessageStartingWith("line 1, column");
    assertThatThrownBy(() -> CelCriterion.of(
            "own-long", "Long", "It is long.", "name.matches('((((a{30}){30}){30}){30}){30}')"))
        .as("worked out, it would take all memory that there is")
        .hasMessageContaining("repeats more than can be worked out");
  }

  @Test
  void versionsAreNeverOverwrittenAndHoldFromWhenTheyAreChosen() {
    StandardStore store = estate.installation.standards();
    assertThat(store.inForceAt(Estate.NOW)).isEqualTo(Standard.shipped());
    Standard first = store.save(own(), 0, "begin", "ana", Estate.NOW);
    Standard second = store.save(own(), 1, "again", "ana", Estate.NOW);
    assertThat(second.title()).isEqualTo("Tarnwick 2");
    assertThatThrownBy(() -> store.save(own(), 1, "late", "bo", Estate.NOW))
        .isInstanceOf(Conflict.class)
        .hasMessageContaining("open version 2");
    assertThatThrownBy(() -> store.save(own(), 0, "new", "bo", Estate.NOW))
        .isInstanceOf(Conflict.class)
        .hasMessageContaining("give yours another name");
    store.putInForce(second, "ana", Estate.NOW);
    store.putInForce(ShippedStandards.strict(), "ana", Estate.NOW.plusSeconds(60));
    assertThat(store.inForceAt(Estate.NOW.minusMillis(1))).isEqualTo(Standard.shipped());
    assertThat(store.inForceAt(Estate.NOW)).isEqualTo(second);
    assertThat(store.inForceAt(Estate.NOW.plusSeconds(60))).isEqualTo(ShippedStandards.strict());
    assertThat(store.find("Tarnwick", 1)).contains(first);
    assertThat(store.versions())
        .extracting(StandardStore.Version::name)
        .containsExactly("Default", "Strict", "Tarnwick", "Tarnwick");
  }
}
