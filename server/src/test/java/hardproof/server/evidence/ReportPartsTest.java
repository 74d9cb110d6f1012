package hardproof.server.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.drills.Method;
import hardproof.core.estate.Selector;
import hardproof.core.proof.Evaluation;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunNeeds;
import hardproof.server.runs.RunOrder;
import java.io.IOException;
import java.io.StringReader;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import javax.xml.parsers.DocumentBuilderFactory;
import org.junit.jupiter.api.Test;
import org.xml.sax.InputSource;

class ReportPartsTest extends WithEstate {
  private Run drill(Method method) {
    var facts = estate.installation.evaluations().now().estate();
    RunOrder order = estate
        .installation
        .orders()
        .complete(facts, new RunOrder("share", null, null, method, null, "because", Duration.ZERO));
    String id = estate
        .installation
        .runs()
        .queue(
            order,
            estate.installation.orders().plan(facts, order).reaches(),
            RunNeeds.of(0, 0),
            null,
            "tester",
            Estate.NOW);
    estate.installation.queue().runOne();
    return estate.installation.runs().find(id).orElseThrow();
  }

  @Test
  void theLogOfADrillSaysEverythingThatWasRecorded() {
    Run run = drill(Method.READ_THROUGH);
    assertThat(DrillLog.of(run.fact(), RunDetail.of(run, List.of())).lines())
        .contains(
            "run        " + run.id(),
            "resource   share",
            "point      share-2",
            "read from  near",
            "method     read-through",
            "asked by   tester",
            "reason     because",
            "queued     2026-11-24T10:00:00Z",
            "restore    done",
            "checks     passed",
            "clean-up   not-due",
            "rung       intact, reached",
            " 1  done     2026-11-24T10:00:00Z     Find 2 artifacts");
  }

  @Test
  void theWaterlineIsWellFormedAndSaysInWordsWhatItShows() throws Exception {
    Evaluation evaluation = estate.installation.evaluations().now().evaluation();
    String svg = WaterlineSvg.of(evaluation);
    var document = DocumentBuilderFactory.newInstance()
        .newDocumentBuilder()
        .parse(new InputSource(new StringReader(svg)));
    assertThat(document.getDocumentElement().getAttribute("aria-label"))
        .isEqualTo("1 workloads by tier; 1 have not reached the rung that is demanded of them");
    assertThat(svg).contains("tier 3").contains("url(#hatch)");
  }

  private FactsJson facts() {
    return estate
        .installation
        .part(PackBuilder.class)
        .contents(estate.installation.evaluations().now(), "T", Selector.EVERYTHING, "A")
        .facts();
  }

  @Test
  void factsAreReadAsTheyWereWritten() throws IOException {
    drill(Method.FULL_RESTORE);
    estate.clock.forward(Duration.ofMinutes(1));
    FactsJson written = facts();
    FactsJson read = FactsJson.read(written.write());
    assertThat(read.facts()).isEqualTo(written.facts());
    assertThat(read.estate().points())
        .containsExactlyElementsOf(written.estate().points().toList());
    assertThat(read.estate().copies())
        .containsExactlyElementsOf(written.estate().copies().toList());
    assertThat(read.runs()).isEqualTo(written.runs());
    assertThat(read.history()).isEqualTo(written.history());
    assertThat(read.write()).isEqualTo(written.write());
  }

  @Test
  void factsThatAreWrongAreRefusedWithTheirPlace() {
    String json = new String(facts().write(), StandardCharsets.UTF_8);
    refused(json.replace("\"as_at\" : \"2026", "\"as_at\" : \"later"), "can't be read");
    refused(json.substring(0, json.length() / 2), "can't be read");
    refused("{}", "not of a version");
    refused(json.replace("\"rung\" : \"intact\"", "\"rung\" : \"flying\""), "can't be read");
  }

  private static void refused(String json, String reason) {
    assertThatThrownBy(() -> FactsJson.read(json.getBytes(StandardCharsets.UTF_8)))
        .isInstanceOf(IOException.class)
        .hasMessageContaining(reason);
  }
}
