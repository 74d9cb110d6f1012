package hardproof.core.criteria;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/** The values of a standard as they are written. */
class ParameterTest {
  @ParameterizedTest
  @EnumSource(Parameter.class)
  void everyValueIsReadBackAsItWasWritten(Parameter parameter) {
    for (Standard standard : List.of(ShippedStandards.sensible(), ShippedStandards.strict())) {
      for (TierDemand tier : standard.tiers()) {
        Long value = tier.value(parameter);
        if (value != null) {
          assertThat(parameter.read(parameter.write(value))).isEqualTo(value);
          assertThat(parameter.words(value)).isNotBlank();
        }
      }
    }
  }

  @ParameterizedTest
  @CsvSource(delimiter = '|', textBlock = """
      RPO|soon|RPO: 'soon' is not a duration; write it as PT4H, P14D, 4h or 14d
      RPO|0h|RPO: '0h' is nothing; give a length of time
      COPIES|-1|Copies, at least: '-1' is not a whole number from 0 to 1000000
      ATTAINMENT|1.01|RPO attainment, at least: '1.01' is more than 1, the whole of the time
      ATTAINMENT|most|RPO attainment, at least: 'most' is not a number such as 0.99
      RUNG|7|Demanded rung: '7' rung 7 does not exist: 0 to 5
      CONSISTENCY|fine|Consistency, at least: 'fine' is not one of unknown, file, crash, application
      ENCRYPTED|maybe|Encrypted: 'maybe' is neither yes nor no; use true/false, yes/no or 1/0
      """)
  void valuesThatCantBeRightAreRefused(Parameter parameter, String text, String reason) {
    assertThatThrownBy(() -> parameter.read(text)).hasMessage(reason);
  }

  @Test
  void whatIsNeededCantBeLeftEmpty() {
    Map<Parameter, Long> values =
        new EnumMap<>(Standard.shipped().tiers().get(0).values());
    values.remove(Parameter.RPO);
    assertThatThrownBy(() -> new TierDemand(values)).hasMessage("RPO needs a value in every tier");
    values.put(Parameter.RPO, 1L);
    values.remove(Parameter.REACH);
    assertThat(new TierDemand(values).duration(Parameter.REACH)).isNull();
  }
}
