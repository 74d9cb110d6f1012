package hardproof.server.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.estate.Selector;
import hardproof.server.WithEstate;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PointsJsonTest extends WithEstate {
  private String json() {
    FactsJson facts = estate
        .installation
        .part(PackBuilder.class)
        .contents(estate.installation.evaluations().now(), "T", Selector.EVERYTHING, "A")
        .facts();
    return new String(facts.write(), StandardCharsets.UTF_8);
  }

  private void refused(UnaryOperator<String> change, String reason) {
    String json = json();
    String changed = change.apply(json);
    assertThat(changed).isNotEqualTo(json);
    assertThatThrownBy(() -> FactsJson.read(changed.getBytes(StandardCharsets.UTF_8)))
        .isInstanceOf(IOException.class)
        .hasMessageContaining(reason);
  }

  /** Each change of the text, and what is said of it. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "\"share-2\", \"incremental\" | \"share-2\", \"whole\"   | points: facts.json, line",
        "\"share-2\", \"incremental\" | 2, \"incremental\"              | a row holds something else than text",
        "\"share-2\", \"incremental\" | \"incremental\"                 | a row has",
        "\"share-1\", \"full\"        | \"share-2\", \"full\"         | the point share-2 of share stands there twice",
        "\"of_points\" : [ \"key\"        | \"of_points\" : [ \"name\" | which are no fields of it",
        "\"of_points\" : [ \"key\", \"form\" | \"of_points\" : [ \"key\", \"key\" | which are no fields of it",
        "\"of_copies\"                    | \"of_copy\"                | there is no \"of_copies\"",
        "\"recorded_at\"                  | \"locked_until\"           | it is not said when it was recorded",
        "\"points\" : [ {                 | \"points\" : [ 7, {        | here is no END_ARRAY",
      })
  void whatIsWrongIsNamedWithItsPlace(String from, String to, String reason) {
    refused(json -> json.replaceFirst(Pattern.quote(from), to), reason);
  }

  @Test
  void pointsOfAResourceStandAtOnePlace() {
    refused(
        json -> {
          int begin = json.indexOf("{", json.indexOf("\"points\" : [ {"));
          int end = json.indexOf("} ]", begin);
          int next = json.indexOf("}, {", begin);
          String first = json.substring(begin, next > 0 && next < end ? next + 1 : end + 1);
          return json.substring(0, begin) + first + ", " + json.substring(begin);
        },
        "share has points at two places");
  }

  /** They are held to the instant by which all was known, which must be there before them. */
  @Test
  void pointsBeforeTheInstantAreRefused() {
    refused(
        json -> "{ \"hard_proof_facts\" : 8, \"points\" : [ ], " + json.substring(1),
        "can't be read");
    refused(json -> json + " {}", "goes on after its end");
    refused(json -> json.substring(0, json.indexOf("\"of_copies\"") + 20), "can't be read");
  }
}
