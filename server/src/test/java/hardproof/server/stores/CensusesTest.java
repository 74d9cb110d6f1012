package hardproof.server.stores;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.census.CensusFact;
import hardproof.core.census.CensusState;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.estate.Selector;
import hardproof.core.findings.Finding;
import hardproof.core.findings.Findings;
import hardproof.core.findings.SubjectType;
import hardproof.core.ladder.Rung;
import hardproof.core.proof.Evaluation;
import hardproof.proving.stores.ObjectAddress;
import hardproof.server.WithEstate;
import hardproof.server.drills.DrillWith;
import hardproof.server.evidence.ForgedPack;
import hardproof.server.evidence.PackBuilder;
import hardproof.server.evidence.PackStore;
import hardproof.server.evidence.PackVerifier;
import hardproof.server.web.Refused;
import hardproof.standins.stores.ObjectShelf;
import hardproof.standins.stores.ObjectStandIn;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Lists of a store, held to what the feeds of a small estate claim. */
class CensusesTest extends WithEstate {
  private static final Instant WRITTEN = Instant.parse("2026-11-24T05:40:00Z");
  private static final String FULL = "share-1.tar.gz";
  private ObjectStandIn standIn;

  /** As whoever wrote the backups left them. */
  @BeforeEach
  void writtenInTime() throws IOException {
    try (Stream<Path> files = Files.list(estate.store())) {
      for (Path file : files.toList()) {
        Files.setLastModifiedTime(file, FileTime.from(WRITTEN));
      }
    }
  }

  @AfterEach
  void stopStandIn() {
    if (standIn != null) {
      standIn.close();
    }
  }

  private <T> T part(Class<T> type) {
    return estate.installation.part(type);
  }

  private Census list() {
    estate.clock.forward(Duration.ofSeconds(1));
    Census begun = part(Censuses.class).begin("near", "ana");
    Awaitility.await()
        .atMost(Duration.ofSeconds(90))
        .until(
            () -> part(CensusStore.class).find(begun.id()).get().state() != Census.State.RUNNING);
    return part(CensusStore.class).find(begun.id()).get();
  }

  private Evaluation now() {
    estate.clock.forward(Duration.ofSeconds(1));
    return estate.installation.evaluations().now().evaluation();
  }

  private Outcome outcome(CriterionCode code, Evaluation of) {
    return of.resource("share").outcome(code);
  }

  private List<CensusState> states() {
    return part(CensusStore.class).noted("near").values().stream()
        .map(CensusFact::state)
        .toList();
  }

  @Test
  void whatIsThereAsClaimedIsHeld() {
    assertThat(now().resource("share").proof().rung()).isEqualTo(Rung.CLAIMED);
    Census census = list();
    assertThat(census.state()).isEqualTo(Census.State.DONE);
    assertThat(census.sentence()).contains("3 copies claimed, each of them as claimed");
    assertThat(census.compared().there()).isEqualTo(3);
    assertThat(census.listed().untold()).isZero();
    Evaluation after = now();
    assertThat(after.resource("share").proof().rung()).isEqualTo(Rung.HELD);
    assertThat(after.resource("db").proof().rung()).isEqualTo(Rung.HELD);
    assertThat(outcome(CriterionCode.COPIES_AS_LISTED, after).state()).isEqualTo(OutcomeState.MET);
  }

  @Test
  void whatIsGoneIsNoCopyUntilItIsThereAgain() throws IOException {
    list();
    byte[] full = Files.readAllBytes(estate.store().resolve(FULL));
    Files.delete(estate.store().resolve(FULL));
    Census census = list();
    assertThat(census.compared().gone()).isEqualTo(1);
    Evaluation gone = now();
    assertThat(outcome(CriterionCode.COPIES_AS_LISTED, gone).sentence())
        .isEqualTo("NEAR: " + FULL + " is not on the store");
    assertThat(gone.resource("share").proof().rung()).isEqualTo(Rung.CLAIMED);
    assertThat(outcome(CriterionCode.FRESH_EXPOSURE_NOW, gone).state())
        .isEqualTo(OutcomeState.NOT_MET);
    Instant then = estate.clock.instant();

    list();
    assertThat(part(CensusStore.class).facts(estate.clock.instant()))
        .filteredOn(f -> f.state() == CensusState.GONE)
        .as("it is told once, however often it is found")
        .hasSize(1);

    Files.write(estate.store().resolve(FULL), full);
    Files.setLastModifiedTime(estate.store().resolve(FULL), FileTime.from(WRITTEN));
    list();
    assertThat(states()).isEmpty();
    assertThat(outcome(CriterionCode.COPIES_AS_LISTED, now()).state()).isEqualTo(OutcomeState.MET);
    assertThat(outcome(
                CriterionCode.COPIES_AS_LISTED,
                estate.installation.evaluations().at(then).evaluation())
            .state())
        .as("as it was known then")
        .isEqualTo(OutcomeState.NOT_MET);
  }

  @Test
  void whatIsLongerOrWrittenAgainIsToldApart() throws IOException {
    Files.writeString(
        estate.store().resolve(FULL), "more", java.nio.file.StandardOpenOption.APPEND);
    Files.setLastModifiedTime(
        estate.store().resolve("db-1.sqlite.gz"), FileTime.from(WRITTEN.plusSeconds(601)));
    list();
    assertThat(states()).containsExactlyInAnyOrder(CensusState.OTHER_SIZE, CensusState.NEWER);
    Evaluation after = now();
    assertThat(after.resource("db").proof().rung()).isEqualTo(Rung.HELD);
    assertThat(after.resource("share").proof().rung()).isEqualTo(Rung.CLAIMED);
  }

  @Test
  void whatNoFeedTellsOfIsShownWithSizeAndAge() throws IOException {
    Files.createDirectories(estate.store().resolve("old"));
    Files.write(estate.store().resolve("old/forgotten.tar"), new byte[500]);
    Files.setLastModifiedTime(
        estate.store().resolve("old/forgotten.tar"),
        FileTime.from(Instant.parse("2025-01-01T00:00:00Z")));
    Census census = list();
    assertThat(census.listed().untold()).isEqualTo(1);
    assertThat(census.listed().untoldBytes()).isEqualTo(500);
    assertThat(part(CensusStore.class).untold("near"))
        .containsExactly(new CensusStore.Untold(
            "old/forgotten.tar", 500, Instant.parse("2025-01-01T00:00:00Z")));
    assertThat(findings()).containsExactly("store-untold:near");
  }

  @Test
  void whereNothingIsFoundThePlaceIsDoubtedFirst() throws IOException {
    Path moved = Files.createDirectories(estate.store().resolve("moved"));
    try (Stream<Path> files = Files.list(estate.store())) {
      for (Path file : files.filter(Files::isRegularFile).toList()) {
        Files.move(file, moved.resolve(file.getFileName()));
      }
    }
    Census census = list();
    assertThat(census.state()).isEqualTo(Census.State.FAILED);
    assertThat(census.sentence())
        .startsWith(
            "none of the 3 copies that should be there is under its place; what is there is named like moved/");
    assertThat(states()).isEmpty();
    assertThat(outcome(CriterionCode.COPIES_AS_LISTED, now()).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
  }

  @Test
  void whereTheSameListFoundThemBeforeAllOfItIsGone() throws IOException {
    list();
    try (Stream<Path> files = Files.list(estate.store())) {
      for (Path file : files.toList()) {
        Files.delete(file);
      }
    }
    assertThat(list().compared().gone()).isEqualTo(3);
    assertThat(states()).hasSize(3).containsOnly(CensusState.GONE);
  }

  @Test
  void whatWasFinishedSinceIsNotLookedForAndWhatIsTakenBackIsOver() throws IOException {
    Files.delete(estate.store().resolve(FULL));
    list();
    assertThat(states()).containsExactly(CensusState.GONE);
    estate.take(
        "copies.csv",
        "point,store,finished,state,place\nshare-1,near,2026-11-24T05:40:00Z,deleted," + FULL
            + "\n");
    assertThat(outcome(CriterionCode.COPIES_AS_LISTED, now()).state()).isEqualTo(OutcomeState.MET);
    list();
    assertThat(states()).isEmpty();
  }

  private Instant lock(String resource) {
    estate.clock.forward(Duration.ofSeconds(1));
    return estate
        .installation
        .evaluations()
        .now()
        .estate()
        .pointSet(resource)
        .copiesOf(0)
        .get(0)
        .lockedUntil();
  }

  private List<String> findings() {
    estate.clock.forward(Duration.ofSeconds(1));
    var now = estate.installation.evaluations().now();
    return Findings.of(now.evaluation(), now.estate(), Map.of()).stream()
        .filter(f -> f.about().type() == SubjectType.STORE)
        .map(Finding::key)
        .toList();
  }

  private void connect(ObjectStandIn at, String secret) {
    part(ConnectionStore.class)
        .keep(
            new Connection(
                "near",
                Connection.Kind.OBJECT_STORE,
                ObjectAddress.of(at.endpoint().toString(), "nordal-1", "near", "", true, null),
                "key",
                null,
                null,
                estate.clock.instant(),
                "ana"),
            new Connection.Secret(secret, null, null, null, null));
  }

  private ObjectShelf startObjects() throws IOException {
    ObjectShelf shelf = ObjectShelf.empty();
    try (Stream<Path> files = Files.list(estate.store())) {
      for (Path file : files.toList()) {
        shelf.put(file.getFileName().toString(), Files.readAllBytes(file), WRITTEN);
      }
    }
    standIn = ObjectStandIn.start(
        new ObjectStandIn.Settings("near", shelf, "key", "secret", "nordal-1", true, true),
        0,
        Clock.systemUTC());
    return shelf;
  }

  @Test
  void anObjectStoreIsListedDrilledAndSweptAsAFolderIs() throws IOException {
    ObjectShelf shelf = startObjects();
    connect(standIn, "secret");
    // Nothing is read from the folder any more.
    try (Stream<Path> files = Files.list(estate.store())) {
      for (Path file : files.toList()) {
        Files.delete(file);
      }
    }
    assertThat(list().compared().there()).isEqualTo(3);
    var run = new DrillWith(estate).run("share", Method.FULL_RESTORE, Duration.ZERO, List.of());
    assertThat(run.restore()).as(run.sentence()).isEqualTo(RestoreState.DONE);
    Instant until = Instant.parse("2027-01-01T00:00:00Z");
    estate.take(
        "copies.csv",
        "point,store,finished,state,place,locked_until\nshare-1,near,2026-11-24T05:40:00Z,present,"
            + FULL + "," + until + "\n");
    shelf.change(
        FULL,
        v -> v.locked(new ObjectShelf.Lock("COMPLIANCE", until.minus(Duration.ofDays(20)), false)));
    Census census = list();
    assertThat(census.compared().shorterLock()).isEqualTo(1);
    assertThat(outcome(CriterionCode.COPIES_AS_LISTED, now()).sentence())
        .contains("locked until 1 Jan 2027 00:00 as claimed; the store says until 12 Dec 00:00");
    assertThat(lock("share")).as("as the store says").isEqualTo(until.minus(Duration.ofDays(20)));
    shelf.change("db-1.sqlite.gz", v -> v.locked(new ObjectShelf.Lock("COMPLIANCE", until, false)));
    assertThat(list().compared().there()).isEqualTo(2);
    assertThat(lock("db")).as("a lock that no feed claims").isEqualTo(until);
    assertThat(outcome(CriterionCode.COPIES_AS_LISTED, now()).sentence()).contains(FULL);
    shelf.change("db-1.sqlite.gz", v -> v.locked(null));
    shelf.delete("db-1.sqlite.gz", estate.clock.instant());
    list();
    assertThat(part(CensusStore.class).noted("near").get("db-1").sentence())
        .contains("it was deleted at 24 Nov")
        .contains("older versions are still kept");
  }

  @Test
  void aListThatBreaksOffConcludesNothing() throws IOException {
    startObjects();
    connect(standIn, "secret");
    list();
    standIn.befall((exchange, key) -> {
      String query = String.valueOf(exchange.getRequestURI().getRawQuery());
      if (query.contains("versions")) {
        ObjectStandIn.refuse(exchange, 500, "InternalError");
        return true;
      }
      return false;
    });
    Census census = list();
    assertThat(census.state()).isEqualTo(Census.State.FAILED);
    assertThat(census.sentence()).contains("nothing was concluded from it");
    assertThat(findings()).containsExactly("store-not-listed:near");
    assertThat(states()).isEmpty();
    assertThat(now().resource("share").proof().rung()).isEqualTo(Rung.HELD);
  }

  @Test
  void aWrongSecretIsSaidAndADrillBlamesNobody() throws IOException {
    startObjects();
    connect(standIn, "another");
    Census census = list();
    assertThat(census.state()).isEqualTo(Census.State.FAILED);
    assertThat(census.sentence())
        .startsWith("NEAR can't be reached")
        .contains("the secret does not belong to the key");
    var run = new DrillWith(estate).run("share", Method.READ_THROUGH, Duration.ZERO, List.of());
    assertThat(run.restore()).isEqualTo(RestoreState.REFUSED);
  }

  @Test
  void aStoreIsListedOnceADayByItself() {
    Censuses censuses = part(Censuses.class);
    censuses.beginWhatIsDue(estate.clock.instant());
    Awaitility.await().until(() -> part(CensusStore.class).newest(true).containsKey("near"));
    censuses.beginWhatIsDue(estate.clock.instant().plus(Duration.ofHours(24)).minusMillis(1));
    assertThat(part(CensusStore.class).of("near", 9)).hasSize(1);
    censuses.beginWhatIsDue(estate.clock.instant().plus(Duration.ofHours(24)));
    assertThat(part(CensusStore.class).of("near", 9)).hasSize(2);
  }

  @Test
  void whatAProcessLeftBehindIsInterrupted() {
    Census left =
        part(CensusStore.class).begin("near", "ana", estate.clock.instant()).get();
    assertThatThrownBy(() -> part(Censuses.class).begin("near", "ana"))
        .isInstanceOf(Refused.class)
        .hasMessage("NEAR is being listed already.");
    part(Censuses.class).recover();
    assertThat(part(CensusStore.class).find(left.id()).get().state())
        .isEqualTo(Census.State.INTERRUPTED);
    assertThatThrownBy(() -> part(Censuses.class).begin("nowhere", "ana"))
        .hasMessage("There is no store 'nowhere'.");
  }

  @Test
  void aCensusIsInThePackAndInTheLedger() throws IOException {
    Files.delete(estate.store().resolve(FULL));
    Files.write(estate.store().resolve("forgotten.tar"), new byte[500]);
    list();
    now();
    estate.clock.forward(Duration.ofMinutes(1));
    PackStore.Issued issued = estate
        .installation
        .packs()
        .issue(
            part(PackBuilder.class)
                .contents(estate.installation.evaluations().now(), "T", Selector.EVERYTHING, "ana"),
            estate.clock.instant());
    Path pack = estate.installation.packs().file(issued);
    assertThat(PackVerifier.verify(pack).checks())
        .allSatisfy(c -> assertThat(c.passed()).as(c.sentence()).isTrue());
    assertThat(PackVerifier.verify(forged(pack, "\"untold\" : 1", "\"untold\" : 0"))
            .checks())
        .filteredOn(c -> !c.passed())
        .singleElement()
        .satisfies(c -> assertThat(c.sentence()).contains("the list 1 of store near"));
    assertThat(PackVerifier.verify(forged(pack, "\"whole\" : true", "\"whole\" : false"))
            .passed())
        .isFalse();
  }

  private Path forged(Path pack, String was, String is) throws IOException {
    return ForgedPack.of(
        pack,
        pack.resolveSibling("forged.zip"),
        files -> files.compute("data/facts.json", (k, v) -> {
          String text = new String(v, StandardCharsets.UTF_8);
          assertThat(text).contains(was);
          return text.replace(was, is).getBytes(StandardCharsets.UTF_8);
        }));
  }
}
