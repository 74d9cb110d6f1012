package hardproof.server.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.criteria.ShippedStandards;
import hardproof.core.drills.Method;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.estate.Selector;
import hardproof.proving.bags.BagReader;
import hardproof.proving.bags.BagWriter.Body;
import hardproof.server.WithEstate;
import hardproof.server.activity.Activity;
import hardproof.server.drills.DrillWith;
import hardproof.server.evidence.PackVerifier.Check;
import hardproof.server.installation.Installation;
import hardproof.server.integrity.Sweeps;
import hardproof.server.ledger.CanonicalJson;
import hardproof.server.ledger.Ledger;
import hardproof.server.ledger.LedgerEntry;
import hardproof.server.ledger.LedgerHeads;
import hardproof.server.ledger.LedgerKeys;
import hardproof.server.ledger.LedgerKind;
import hardproof.server.ledger.TreeHead;
import hardproof.server.rehearsals.Rehearsal;
import hardproof.server.rehearsals.RehearseWith;
import hardproof.server.signing.SigningKey;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What a forger can't make: the ledger's part of a pack. */
class PackProofTest extends WithEstate {
  private TreeHead early;

  @BeforeEach
  void drill() {
    early = estate.installation.part(LedgerHeads.class).current();
    DrillWith drills = new DrillWith(estate);
    drills.run("share", Method.READ_THROUGH, Duration.ZERO, List.of());
    drills.run("db", Method.FULL_RESTORE, Duration.ZERO, List.of());
    estate.clock.forward(Duration.ofMinutes(1));
  }

  private Path pack() throws IOException {
    PackStore.Issued issued = estate
        .installation
        .packs()
        .issue(
            estate
                .installation
                .part(PackBuilder.class)
                .contents(estate.installation.evaluations().now(), "T", Selector.EVERYTHING, "ana"),
            estate.clock.instant());
    return estate.installation.packs().file(issued);
  }

  private Path forged(Consumer<Map<String, byte[]>> change) throws IOException {
    return ForgedPack.of(pack(), folder.resolve("forged.zip"), change);
  }

  private static Check check(Path pack, String name, TreeHead kept) throws IOException {
    return PackVerifier.verify(pack, kept).checks().stream()
        .filter(c -> c.name().equals(name))
        .findFirst()
        .orElseThrow();
  }

  private static String text(Map<String, byte[]> files, String path) {
    return new String(files.get(path), StandardCharsets.UTF_8);
  }

  @Test
  void everyDrillIsInTheLedgerAndTheHeadIsSigned() throws IOException {
    Path pack = pack();
    assertThat(PackVerifier.verify(pack).passed()).isTrue();
    assertThat(check(pack, "Facts in the ledger", null).sentence())
        .isEqualTo(
            "2 drills and 0 read-backs as the ledger has them, the clean-ups, every exception in force, and the"
                + " standard");
    assertThat(check(pack, "Ledger head", null).sentence())
        .contains(SigningKey.fingerprint(early.publicKey()));
    assertThat(check(pack, "Earlier heads", null).passed()).isTrue();
  }

  /**
   * Whoever holds the program makes a whole pack of other facts, in which everything follows from them: only the ledger
   * knows better.
   */
  private String betrayed(String from, String to) throws IOException {
    BagReader bag = BagReader.open(pack());
    String facts = bag.text("data/facts.json");
    String other = facts.replaceFirst(from, to);
    assertThat(other).isNotEqualTo(facts);
    FactsJson read = FactsJson.read(other.getBytes(StandardCharsets.UTF_8));
    Path made = folder.resolve("made.zip");
    try (var out = Files.newOutputStream(made)) {
      Map<String, Body> tables = Map.of(FactsTables.FILE, TablesFile.body(read));
      PackBuilder.bag(read, PackBuilder.evaluate(read), PackProofs.read(bag), tables)
          .write(out);
    }
    List<Check> failed =
        PackVerifier.verify(made).checks().stream().filter(c -> !c.passed()).toList();
    assertThat(failed).extracting(Check::name).containsExactly("Facts in the ledger");
    return failed.get(0).sentence();
  }

  @Test
  void aWholePackMadeOfOtherFactsIsBetrayedByTheLedger() throws IOException {
    assertThat(betrayed("20\\.5 kB to read", "21.5 kB to read"))
        .contains("its steps is")
        .contains("and the ledger has");
    // A shorter recovery, a clean-up that worked, another check that was asked.
    assertThat(betrayed(
            "\"started\" : \"2026-11-24T10:00:00Z\"", "\"started\" : \"2026-11-24T09:00:00Z\""))
        .contains("its started at is '2026-11-24T09:00:00Z'");
    assertThat(betrayed("\"clean_up\" : \"done\"", "\"clean_up\" : \"failed\""))
        .contains("its clean-up is 'failed', and the ledger has 'done'");
    assertThat(betrayed("\"checks\" : \\[ \\]", "\"checks\" : [ \"every file\" ]"))
        .contains("it was asked 'every file'");
    assertThat(betrayed("\"name\" : \"Default\"", "\"name\" : \"Lenient\""))
        .startsWith("standard Lenient 1 is not in the ledger, and is none that ships; ")
        .contains("standard Lenient 1 was not in force at");
  }

  /** What a sweep read is a fact of a pack like any drill. */
  @Test
  void aReadBackIsHeldToTheLedgerToo() throws IOException {
    Installation installation = estate.installation;
    installation.part(Sweeps.class).start();
    installation.part(Sweeps.class).begin("near", null, "ana", "a test");
    Awaitility.await()
        .atMost(Duration.ofSeconds(60))
        .until(() -> installation.part(Ledger.class).all(LedgerKind.READ_BACK).size() == 3);
    estate.clock.forward(Duration.ofMinutes(1));
    Path pack = pack();
    assertThat(PackVerifier.verify(pack).checks())
        .allSatisfy(c -> assertThat(c.passed()).as(c.toString()).isTrue());
    assertThat(check(pack, "Facts in the ledger", null).sentence())
        .startsWith("2 drills and 3 read-backs as the ledger has them");
    assertThat(betrayed("\"run\" : \"read-back-1\"", "\"run\" : \"read-back-7\""))
        .isEqualTo("read-back-7 is not in the ledger");
    String ended =
        installation.part(Ledger.class).all(LedgerKind.READ_BACK).get(0).body();
    assertThat(ended).contains("\"checks\":\"passed\"");
    assertThat(betrayed("(?s)(\"run\" : \"read-back-1\".*?\"bytes\" : )\"\\d+\"", "$1\"1\""))
        .contains("read-back-1: its bytes is '1'");
  }

  @Test
  void aRehearsalIsHeldToTheLedgerToo() throws IOException {
    estate
        .installation
        .checks()
        .keep(
            "db",
            List.of(new hardproof.proving.checks.Check(
                hardproof.proving.checks.CheckType.QUERY_AT_LEAST,
                "SELECT count(*) FROM entry",
                "1")));
    RehearseWith rehearse = new RehearseWith(estate);
    Rehearsal done = rehearse.finish(rehearse.queue("w"));
    assertThat(done.result().outcome()).isEqualTo(RehearsalFact.Outcome.PASSED);
    estate.clock.forward(Duration.ofMinutes(1));
    Path pack = pack();
    assertThat(PackVerifier.verify(pack).checks())
        .allSatisfy(c -> assertThat(c.passed()).as(c.toString()).isTrue());
    assertThat(check(pack, "Facts in the ledger", null).sentence())
        .startsWith("4 drills and 0 read-backs and 1 rehearsal as the ledger has them");
    assertThat(betrayed("\"outcome\" : \"passed\"", "\"outcome\" : \"failed\""))
        .contains("its outcome is 'failed', and the ledger has 'passed'");
    assertThat(betrayed("\"moment\" : \"2026-11-24T10", "\"moment\" : \"2026-11-24T09"))
        .contains("its moment is '2026-11-24T09");
    assertThat(betrayed("(\"workload\" : \"w\",\\s+\"moment\")", "\"loss\" : \"site A\", $1"))
        .contains("its loss is 'site A', and the ledger has 'null'");
  }

  /** Two states of one exception: the later one counts, in whatever order a forger puts them. */
  @Test
  void entriesStandInTheirOrder() throws IOException {
    Path pack = pack();
    PackProofs proofs = PackProofs.read(BagReader.open(pack));
    List<PackProofs.Included> turned = new java.util.ArrayList<>(proofs.entries());
    java.util.Collections.reverse(turned);
    PackProofs other = new PackProofs(proofs.head(), turned, proofs.earlier(), List.of());
    Path forged = forged(files -> files.putAll(other.files()));
    assertThat(check(forged, "Ledger entries", null).sentence()).contains("stands after entry");
  }

  /** A standard that is in force now was not then. */
  @Test
  void thePackOfThenIsHeldToTheStandardOfThen() throws IOException {
    var standards = estate.installation.standards();
    standards.putInForce(ShippedStandards.strict(), "ana", estate.clock.instant());
    estate.clock.forward(Duration.ofMinutes(1));
    assertThat(PackVerifier.verify(pack()).passed()).isTrue();
    var evaluated = estate.installation.evaluations().at(early.at());
    PackBuilder.Contents then = estate
        .installation
        .part(PackBuilder.class)
        .contents(evaluated, "T", Selector.EVERYTHING, "ana");
    FactsJson facts = then.facts();
    FactsJson forged = new FactsJson(
        facts.estate(),
        ShippedStandards.strict(),
        facts.title(),
        facts.scope(),
        facts.runs(),
        facts.history());
    PackProofs proofs = PackProofs.read(BagReader.open(pack()));
    assertThat(new PackProofCheck(forged, proofs).checks())
        .filteredOn(c -> c.name().equals("Facts in the ledger"))
        .singleElement()
        .satisfies(c -> assertThat(c.sentence()).contains("was not in force at"));
  }

  @Test
  void aDrillWithoutItsEntryIsFound() throws IOException {
    Path forged = forged(files ->
        files.put("proof/inclusion.json", "{\"entries\":[]}\n".getBytes(StandardCharsets.UTF_8)));
    assertThat(check(forged, "Facts in the ledger", null).sentence())
        .contains("is not in the ledger");
    assertThat(check(forged, "Ledger entries", null).sentence())
        .contains("the key that signed the head is not the one that the ledger says signs");
  }

  @Test
  void anEntryOrAHeadThatWasChangedIsFound() throws IOException {
    Path forged = forged(files -> files.put(
        "proof/inclusion.json",
        text(files, "proof/inclusion.json")
            .replace("20.5 kB", "21.5 kB")
            .getBytes(StandardCharsets.UTF_8)));
    assertThat(check(forged, "Ledger entries", null).sentence())
        .contains("is not in the ledger that the head stands for");
    forged = forged(files -> files.put(
        "proof/tree-head.json",
        text(files, "proof/tree-head.json")
            .replace("\"size\":", "\"size\":1")
            .getBytes(StandardCharsets.UTF_8)));
    assertThat(check(forged, "Ledger head", null).passed()).isFalse();
    forged = forged(files -> files.remove("proof/signature.ed25519"));
    assertThat(check(forged, "Ledger", null).sentence())
        .isEqualTo("proof/signature.ed25519 is not in the pack");
    forged = forged(files ->
        files.put("proof/consistency.json", "{\"heads\":".getBytes(StandardCharsets.UTF_8)));
    assertThat(check(forged, "Ledger", null).sentence())
        .contains("a file of proof/ is not as it is written");
  }

  @Test
  void aHeadThatSomebodyKeptIsHeldToTheLedgerOfThePack() throws IOException {
    Path pack = pack();
    assertThat(check(pack, "Kept head", early))
        .satisfies(c -> assertThat(c.passed()).isTrue())
        .extracting(Check::sentence)
        .asString()
        .endsWith("the ledger only grew since");
    TreeHead own = PackProofs.read(BagReader.open(pack)).head();
    assertThat(check(pack, "Kept head", own).passed()).isTrue();
    estate.installation.part(Activity.class).record("ana", "looked", "db", "");
    TreeHead newer = estate.installation.part(LedgerHeads.class).current();
    assertThat(check(pack, "Kept head", newer).sentence()).contains("is newer than the pack's");
  }

  /** An older head of another history, of a size from which no proof is there, of another key. */
  @Test
  void aHeadOfAnotherHistoryIsNotAccepted() throws Exception {
    Path pack = pack();
    try (var other =
        new hardproof.server.Estate(Files.createDirectories(folder.resolve("other")))) {
      TreeHead stranger = other.installation.part(LedgerHeads.class).current();
      assertThat(check(pack, "Kept head", stranger).sentence())
          .contains("never signed this ledger");
    }
    String body = early.body().replaceFirst("\"root\":\"[0-9a-f]{4}", "\"root\":\"0000");
    Path keys = estate.installation.folder().keys();
    SigningKey key = SigningKey.read(keys, "ledger");
    TreeHead rewritten =
        TreeHead.of(body, key.sign(body.getBytes(StandardCharsets.UTF_8)), key.publicKey());
    assertThat(check(pack, "Kept head", rewritten).sentence()).contains("it was rewritten");
    String between =
        early.body().replaceFirst("\"size\":" + early.size(), "\"size\":" + (early.size() + 1));
    TreeHead unknown =
        TreeHead.of(between, key.sign(between.getBytes(StandardCharsets.UTF_8)), key.publicKey());
    assertThat(check(pack, "Kept head", unknown)).satisfies(c -> {
      assertThat(c.passed()).isFalse();
      assertThat(c.sentence()).contains("holds no proof from that size on");
    });
    TreeHead unsigned = TreeHead.of(body, early.signature(), early.publicKey());
    assertThat(check(pack, "Kept head", unsigned).sentence())
        .contains("a signature that is not of it");
  }

  /** A pack stays good when another key follows the one that signed it. */
  @Test
  void aPackOfAKeyThatWasFollowedStaysGood() throws IOException {
    Path before = pack();
    estate.installation.part(LedgerKeys.class).follow("ana");
    assertThat(PackVerifier.verify(before).passed()).isTrue();
    new DrillWith(estate).run("share", Method.READ_THROUGH, Duration.ZERO, List.of());
    estate.clock.forward(Duration.ofMinutes(1));
    Path after = pack();
    assertThat(PackVerifier.verify(after, early).passed()).isTrue();
    assertThat(check(after, "Ledger entries", null).sentence())
        .contains("2 keys since its beginning");
  }

  /** Whoever trusted the first key can't follow to this one: that is said. */
  @Test
  void aKeyThatNobodySignedIsSaid() throws IOException {
    Files.delete(estate.installation.folder().keys().resolve("ledger.key"));
    estate.reopen();
    estate.installation.part(LedgerKeys.class).replace("ana", "the disk of the keys broke");
    new DrillWith(estate).run("share", Method.READ_THROUGH, Duration.ZERO, List.of());
    estate.clock.forward(Duration.ofMinutes(1));
    assertThat(check(pack(), "Ledger entries", early).sentence())
        .endsWith("2 keys since its beginning, of which 1 replaced a lost one and is signed by"
            + " nobody: ask why");
  }

  /** A ledger of a forger's own, signed by a key of their own, whose only entry tells of no key. */
  @Test
  void aLedgerMadeUpByAForgerIsJudgedAndNotStumbledOver() throws IOException {
    SigningKey own = SigningKey.make(folder, "own");
    LedgerEntry entry = new LedgerEntry(
        0,
        LedgerKind.KEY,
        "x",
        CanonicalJson.of(Map.of(
            "number", 0, "kind", "key", "key", "x", "at", "yesterday", "content", Map.of())));
    String body = CanonicalJson.of(Map.of(
        "size", 1, "root", entry.leaf().toString(), "at", "2026-11-24T10:00:00Z", "key", "x"));
    TreeHead head =
        TreeHead.of(body, own.sign(body.getBytes(StandardCharsets.UTF_8)), own.publicKey());
    PackProofs made = new PackProofs(
        head, List.of(new PackProofs.Included(entry, List.of())), List.of(), List.of());
    Path forged = forged(files -> files.putAll(made.files()));
    assertThat(check(forged, "Ledger entries", early).sentence())
        .contains("entry 0 tells of a key that is none");
    assertThat(check(forged, "Kept head", early).passed()).isFalse();
  }

  /** VERIFY.txt of the pack itself, word by word: every command in it that needs no program of ours. */
  @Test
  void theInstructionsInThePackDoWhatTheySay() throws Exception {
    Path pack = pack();
    Path out = Files.createDirectories(folder.resolve("out"));
    run(out, "unzip -q " + pack);
    Path bag;
    try (var children = Files.list(out)) {
      bag = children.findFirst().orElseThrow();
    }
    List<String> commands = Files.readString(bag.resolve("VERIFY.txt"))
        .lines()
        .filter(l -> l.startsWith("     ") && !l.contains("hard-proof") && !l.contains("CA.pem"))
        .map(String::strip)
        .toList();
    assertThat(commands).hasSize(5);
    assertThat(run(bag, commands.get(0))).contains("data/copies.csv: OK").doesNotContain("FAILED");
    assertThat(run(bag, commands.get(1))).contains("proof/inclusion.json: OK");
    assertThat(run(bag, commands.get(2))).contains("Signature Verified Successfully");
    assertThat(run(bag, commands.get(3))).startsWith(SigningKey.fingerprint(early.publicKey()));
    assertThat(run(bag, commands.get(4)).lines())
        .filteredOn(l -> !l.startsWith("usable points"))
        .hasSize(4)
        .allSatisfy(l -> assertThat(l).startsWith("compared ").contains(" figures, 0 differ"));
    assertThat(run(bag, commands.get(0))).as("it wrote nothing").doesNotContain("FAILED");
    Files.writeString(
        bag.resolve("proof/tree-head.json"),
        Files.readString(bag.resolve("proof/tree-head.json")).replace("size", "sizes"));
    assertThat(exit(bag, commands.get(1))).isNotZero();
    assertThat(exit(bag, commands.get(2))).isNotZero();
  }

  private static String run(Path in, String command) throws Exception {
    Process process = process(in, command);
    String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(process.waitFor()).as(command + "\n" + output).isZero();
    return output;
  }

  private static int exit(Path in, String command) throws Exception {
    Process process = process(in, command);
    process.getInputStream().readAllBytes();
    return process.waitFor();
  }

  private static Process process(Path in, String command) throws IOException {
    return new ProcessBuilder("sh", "-c", command)
        .directory(in.toFile())
        .redirectErrorStream(true)
        .start();
  }

  /** A time-stamp server by OpenSSL, with an authority of its own. */
  private Path stamped(TreeHead head) throws Exception {
    Path witness =
        Files.createDirectories(estate.installation.folder().outbox().resolve("witness"));
    String name = HeadStamp.name(head);
    Files.writeString(witness.resolve(name), head.file());
    Files.writeString(folder.resolve("tsa.cnf"), """
        [tsa]
        default_tsa = t
        [t]
        serial = serial
        crypto_device = builtin
        signer_digest = sha256
        default_policy = 1.2.3.4.1
        digests = sha256, sha512
        [v]
        extendedKeyUsage = critical,timeStamping
        """);
    Files.writeString(folder.resolve("serial"), "01\n");
    run(
        folder,
        "openssl req -x509 -newkey rsa:2048 -nodes -keyout ca.key -out CA.pem -subj /CN=Authority -days 3650");
    run(
        folder,
        "openssl req -newkey rsa:2048 -nodes -keyout tsa.key -out tsa.csr -subj /CN=Stamps");
    run(
        folder,
        "openssl x509 -req -in tsa.csr -CA CA.pem -CAkey ca.key -CAcreateserial -out tsa.pem -days 3650"
            + " -extfile tsa.cnf -extensions v");
    run(folder, "openssl ts -query -data '" + witness.resolve(name) + "' -sha512 -cert -out q.tsq");
    run(
        folder,
        "openssl ts -reply -config tsa.cnf -section t -queryfile q.tsq -inkey tsa.key -signer tsa.pem -out '"
            + witness.resolve(name + HeadStamp.ENDING) + "'");
    return witness.resolve(name + HeadStamp.ENDING);
  }

  /** Kept in the pack beside its head, checked by OpenSSL as VERIFY.txt says; another answer in its place is found. */
  @Test
  void anAnswerOfATimeStampServerIsKeptBesideItsHead() throws Exception {
    TreeHead head = estate.installation.part(LedgerHeads.class).current();
    Path answer = stamped(head);
    Path pack = pack();
    assertThat(PackVerifier.verify(pack).checks())
        .allSatisfy(c -> assertThat(c.passed()).as(c.toString()).isTrue())
        .anySatisfy(c -> assertThat(c.name()).isEqualTo("Time stamps"));
    Path out = Files.createDirectories(folder.resolve("stamped"));
    run(out, "unzip -q " + pack + " && mv hard-proof-*/* .");
    String line = Files.readString(out.resolve("VERIFY.txt"))
        .lines()
        .filter(l -> l.contains("openssl ts -verify"))
        .findFirst()
        .orElseThrow()
        .strip()
        .replace("-N.json", "-" + head.size() + ".json")
        .replace("CA.pem", "../CA.pem");
    assertThat(run(out, line)).contains("Verification: OK");

    String path = "proof/stamps/" + HeadStamp.name(head) + HeadStamp.ENDING;
    Path forged = ForgedPack.of(
        pack, folder.resolve("restamped.zip"), f -> f.put(path, new byte[] {1, 2, 3}));
    assertThat(PackVerifier.verify(forged).checks()).anySatisfy(c -> {
      assertThat(c.passed()).isFalse();
      assertThat(c.sentence()).contains("is no answer to its head");
    });
    Files.write(answer, new byte[] {1, 2, 3});
    assertThat(BagReader.open(pack()).file(path))
        .as("an answer to nothing goes into no pack")
        .isNull();
  }
}
