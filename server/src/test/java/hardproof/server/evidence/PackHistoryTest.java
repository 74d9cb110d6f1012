package hardproof.server.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.networknt.schema.Error;
import com.networknt.schema.InputFormat;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import hardproof.core.drills.Method;
import hardproof.core.estate.Selector;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.Showing;
import hardproof.core.wording.WrongValue;
import hardproof.proving.bags.BagReader;
import hardproof.proving.bags.BagWriter.Body;
import hardproof.proving.boot.Screen;
import hardproof.server.Estate;
import hardproof.server.Shell;
import hardproof.server.WithEstate;
import hardproof.server.drills.DrillWith;
import hardproof.server.programmes.Programme;
import hardproof.server.programmes.ProgrammeStore;
import hardproof.server.runs.Run;
import hardproof.server.runs.ScreenStore;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** What a pack tells of the period before its instant, and what outsiders can do with it. */
class PackHistoryTest extends WithEstate {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private Path pack(Instant from) throws IOException {
    PackBuilder.Contents contents = estate
        .installation
        .part(PackBuilder.class)
        .contents(
            estate.installation.evaluations().now(), "Quarter", Selector.EVERYTHING, "ana", from);
    PackStore packs = estate.installation.packs();
    return packs.file(packs.issue(contents, estate.clock.instant()));
  }

  private Path pack() throws IOException {
    return pack(null);
  }

  private Run drill() {
    Run run = new DrillWith(estate).run("share", Method.FULL_RESTORE, Duration.ZERO, List.of());
    estate.clock.forward(Duration.ofMinutes(1));
    return run;
  }

  @Test
  void whatChangedSinceThePackBeforeStandsOnTheFirstPage() throws IOException {
    pack();
    estate.clock.forward(Duration.ofMinutes(1));
    drill();
    new DrillWith(estate).run("db", Method.READ_THROUGH, Duration.ZERO, List.of());
    estate.clock.forward(Duration.ofHours(1));
    Path second = pack();
    String report = BagReader.open(second).text("data/report.html");
    assertThat(report)
        .contains("What changed since the pack before")
        .contains("<span>Quarter</span>, as at <span>24 Nov 2026 10:00 UTC</span>")
        .contains("Proofs gained: SHARE. Lapsed: none.")
        .contains("The standard is the same: Default 1.");
    assertThat(PackVerifier.verify(second).passed()).isTrue();
  }

  @Test
  void withoutAPackBeforeItSaysSo() throws IOException {
    Path first = pack();
    assertThat(BagReader.open(first).text("data/report.html"))
        .contains("No pack of this scope and of an earlier instant lies here to compare with.");
    // Of the same instant, and of another scope: neither came before.
    assertThat(BagReader.open(pack()).file("data/facts.json"))
        .isEqualTo(BagReader.open(first).file("data/facts.json"));
  }

  /** Whatever lies there under its name. */
  @Test
  void aPackBeforeThatCantBeReadIsNone() throws IOException {
    Path first = pack();
    Files.writeString(first, "no zip");
    estate.clock.forward(Duration.ofHours(1));
    assertThat(BagReader.open(pack()).text("data/report.html")).contains("No pack of this scope");
  }

  @Test
  void aPeriodThatBeginsAfterItsEndIsRefused() {
    assertThatThrownBy(() -> pack(Estate.NOW))
        .isInstanceOf(WrongValue.class)
        .hasMessageContaining("begins before the instant it is as at");
    assertThatThrownBy(() -> pack(Estate.NOW.plusSeconds(1))).isInstanceOf(WrongValue.class);
    assertThatThrownBy(() -> pack(Instant.MIN)).isInstanceOf(WrongValue.class);
    assertThatThrownBy(() -> pack(Instant.EPOCH.minusMillis(1))).isInstanceOf(WrongValue.class);
  }

  private void draw() throws IOException {
    Instant next = Instant.parse("2026-11-24T11:00:00Z");
    estate
        .installation
        .part(ProgrammeStore.class)
        .add(Programme.byRule(
            "p",
            "Nightly",
            Selector.EVERYTHING,
            "FREQ=DAILY;BYHOUR=11;BYMINUTE=0;BYSECOND=0",
            Duration.ofHours(4),
            Showing.by(Method.READ_THROUGH),
            new PointChoice(PointChoice.Way.RANDOM, Duration.ofDays(30)),
            CopyChoice.NOT_LAST,
            Estate.NOW));
    estate.clock.set(next);
    estate.installation.programmes().startWhatIsDue(next);
    while (estate.installation.queue().runOne()) {
      estate.clock.forward(Duration.ofMinutes(1));
    }
    estate.clock.forward(Duration.ofMinutes(1));
  }

  /** The line of shell in the table, as it stands there, in bash with sha256sum and sort. */
  @Test
  void whatWasDrawnIsDrawnAgainInAShell() throws Exception {
    draw();
    Path pack = pack();
    Shell.run(
        folder, "unzip", "-q", pack.toString(), "-d", folder.resolve("out").toString());
    Path bag = Files.list(folder.resolve("out")).findFirst().orElseThrow();
    String table = Files.readString(bag.resolve("proof/draws.csv"));
    String row = table.lines().skip(1).findFirst().orElseThrow();
    assertThat(row)
        .startsWith("p,2026-11-24T11:00:00Z,")
        .contains(",one of each resource,", ",yes,");
    String shell =
        row.substring(row.indexOf("\"while ") + 1, row.length() - 1).replace("\"\"", "\"");
    String ranked = Shell.run(bag, "bash", "-c", shell);
    Set<String> resources = new TreeSet<>();
    for (String line : ranked.lines().toList()) {
      String[] columns = line.split("\t");
      if (resources.add(columns[1])) {
        assertThat(row).contains(columns[1] + " " + columns[2]);
      }
    }
    assertThat(resources).containsExactly("db", "share");
    assertThat(BagReader.open(pack).text("data/report.html"))
        .contains("Points were drawn at random from ");
  }

  /** Whoever moves the draw moves the seed, and the ledger knows the other. */
  @Test
  void aDrawThatWasMadeToSuitIsFound() throws IOException {
    draw();
    Path pack = pack();
    assertThat(PackVerifier.verify(pack).passed()).isTrue();
    assertThat(betrayed(
            pack, t -> t.replaceFirst("\"due\" : \"2026-11-24T11", "\"due\" : \"2026-11-24T10")))
        .anyMatch(s -> s.contains("drawn again draws other points"))
        .anyMatch(s -> s.contains("is not in the ledger"));
    assertThat(betrayed(
            pack, t -> t.replaceFirst("\"candidates\" : \\[ \"[^\"]*\", ", "\"candidates\" : [ ")))
        .anyMatch(s -> s.contains("draw of p at 2026-11-24T11:00:00Z: its digest is"));
  }

  /** What fails in a pack that somebody made with the program, of other facts. */
  private List<String> betrayed(Path pack, UnaryOperator<String> change) throws IOException {
    BagReader bag = BagReader.open(pack);
    String facts = bag.text("data/facts.json");
    String other = change.apply(facts);
    assertThat(other).isNotEqualTo(facts);
    FactsJson read = FactsJson.read(other.getBytes(StandardCharsets.UTF_8));
    PackProofs proofs = PackProofs.read(bag);
    Path made = folder.resolve("made.zip");
    try (var out = Files.newOutputStream(made)) {
      String report = PackBuilder.report(read, PackBuilder.evaluate(read), proofs);
      PackBuilder.bag(
              read,
              PackBuilder.evaluate(read),
              proofs,
              Map.of(
                  PackBuilder.REPORT_PDF,
                  Body.of(ReportPdf.of(report, read.asAt())),
                  FactsTables.FILE,
                  TablesFile.body(read)))
          .write(out);
    }
    return PackVerifier.verify(made).checks().stream()
        .filter(c -> !c.passed())
        .map(PackVerifier.Check::sentence)
        .toList();
  }

  /** A picture lies beside the log of its drill; another one in its place is found, and a missing one. */
  @Test
  void picturesOfMachinesAreHeldToTheirSums() throws IOException {
    Run run = drill();
    byte[] png = {(byte) 0x89, 'P', 'N', 'G', 1};
    estate
        .installation
        .part(ScreenStore.class)
        .last(run.id(), List.of(new Screen(61_000, null, png)), "sign-in", "stand-in");
    Path pack = pack();
    String path = "data/drills/" + run.id() + "/screen-1.png";
    assertThat(BagReader.open(pack).file(path)).isEqualTo(png);
    assertThat(BagReader.open(pack).text("data/drills/" + run.id() + "/log.txt"))
        .contains("screen-1.png at 61 s: sign-in, SHA-256 ");
    assertThat(PackVerifier.verify(pack).passed()).isTrue();
    assertThat(failed(pack, path, new byte[] {1}))
        .anyMatch(s -> s.contains("is not the picture whose SHA-256 is in facts.json"));
    assertThat(failed(pack, path, null)).anyMatch(s -> s.contains("is not in the pack"));
  }

  private List<String> failed(Path pack, String path, byte[] content) throws IOException {
    Path forged = ForgedPack.of(pack, folder.resolve("forged.zip"), files -> {
      if (content == null) {
        files.remove(path);
      } else {
        files.put(path, content);
      }
    });
    return PackVerifier.verify(forged).checks().stream()
        .filter(c -> !c.passed())
        .map(PackVerifier.Check::sentence)
        .toList();
  }

  /** A page of the PDF that says something else than the page of HTML, with every sum made right. */
  @Test
  void aReportThatSaysSomethingElseAsPdfIsFound() throws IOException {
    Path pack = pack();
    String html = BagReader.open(pack).text("data/report.html");
    byte[] better = ReportPdf.of(html.replace("unproven", "proven"), Estate.NOW);
    assertThat(failed(pack, "data/report.pdf", better))
        .containsExactly("report.pdf is not what report.html gives when it is made again");
    assertThat(failed(pack, "data/report.pdf", null)).anyMatch(s -> s.contains("report.pdf"));
  }

  /** The schema of OSCAL 1.1.3, as its authors publish it, by a validator of JSON Schema that is not ours. */
  @Test
  void theAssessmentResultsAreOscal() throws IOException {
    drill();
    JsonNode results = JSON.readTree(BagReader.open(pack()).file("data/assessment-results.json"));
    JsonNode schema =
        JSON.readTree(getClass().getResourceAsStream("/schema/json/oscal-ar_schema.json"));
    unwrapped(schema);
    List<Error> errors = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_7)
        .getSchema(schema)
        .validate(results.toString(), InputFormat.JSON);
    assertThat(errors).isEmpty();
    JsonNode result = results.path("assessment-results").path("results").get(0);
    Set<String> observed = new TreeSet<>();
    result.path("observations").forEach(o -> observed.add(o.path("uuid").asString()));
    assertThat(observed).hasSize(result.path("observations").size());
    assertThat(result.path("findings")).isNotEmpty();
    for (JsonNode finding : result.path("findings")) {
      assertThat(observed)
          .contains(finding
              .path("related-observations")
              .get(0)
              .path("observation-uuid")
              .asString());
      assertThat(finding.path("target").path("target-id").asString())
          .matches("(cp|si)-\\d+(\\.\\d+)?_smt");
    }
    // What can't be judged is neither satisfied nor not.
    assertThat(result.path("observations").toString())
        .contains("not enough data:", "not looked at:");
    result
        .path("findings")
        .forEach(f -> assertThat(f.path("target").path("status").path("remarks").asString())
            .isNotEqualTo("not enough data"));
  }

  /** Its generator wrapped the schemas of properties called "id" once too often. */
  private static void unwrapped(JsonNode node) {
    if (node instanceof ObjectNode object
        && object.get("properties") instanceof ObjectNode fields) {
      for (String name : List.copyOf(fields.propertyNames())) {
        JsonNode field = fields.get(name);
        if (field.size() == 1 && field.path(name).has("$ref")) {
          fields.set(name, field.get(name));
        }
      }
    }
    node.forEach(PackHistoryTest::unwrapped);
  }

  /** RFC 9562, appendix A.4: www.example.com in the namespace of DNS (from memory). */
  @Test
  void aNameAlwaysHasTheSameUuid() {
    assertThat(AssessmentResults.version5(
            UUID.fromString("6ba7b810-9dad-11d1-80b4-00c04fd430c8"), "www.example.com"))
        .isEqualTo(UUID.fromString("2ed6657d-e927-568b-95e1-2665a8aea6a2"));
  }

  @Test
  void everyControlIsARow() throws IOException {
    List<String> rows = BagReader.open(pack()).text("data/controls.csv").lines().toList();
    assertThat(rows.get(0))
        .isEqualTo("publication,control,title,tier,state,met,not_met,not_enough_data,excepted,"
            + "not_applicable,share_of_time_met,criteria,not_looked_at");
    assertThat(rows)
        .anyMatch(r -> r.startsWith("NIST SP 800-53 r5,NIST CP-9(7),")
            && r.contains(",all,not looked at,0,0,0,0,0,"));
    assertThat(rows)
        .anyMatch(r -> r.contains("CIS 11.5,Test data recovery,all,other than satisfied,"));
    assertThat(rows).anyMatch(r -> r.contains("CIS 11.5,Test data recovery,3,,"));
  }
}
