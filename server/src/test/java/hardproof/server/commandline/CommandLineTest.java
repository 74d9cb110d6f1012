package hardproof.server.commandline;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.Estate;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.dao.CannotAcquireLockException;
import org.springframework.transaction.CannotCreateTransactionException;

class CommandLineTest {
  @TempDir
  Path folder;

  private String data;

  private record Result(int code, String out, String err) {}

  @BeforeEach
  void fill() throws IOException {
    try (Estate estate = new Estate(folder).filled()) {
      data = estate.installation.folder().root().toString();
    }
  }

  private static Result run(String... args) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ByteArrayOutputStream err = new ByteArrayOutputStream();
    int code = HardProofCommand.run(
        args,
        new PrintStream(out, true, StandardCharsets.UTF_8),
        new PrintStream(err, true, StandardCharsets.UTF_8));
    return new Result(
        code, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
  }

  @ParameterizedTest
  @ValueSource(strings = {"1h=2s", "--demo --still --pace 1h=2s", "--demo --pace soon"})
  void aPaceIsForADemoThatGoesOn(String options) {
    String[] more = (options.startsWith("--") ? options : "--pace " + options).split(" ");
    String[] args = new String[more.length + 3];
    System.arraycopy(new String[] {"serve", "--data", data}, 0, args, 0, 3);
    System.arraycopy(more, 0, args, 3, more.length);
    Result result = run(args);
    assertThat(result.code()).isEqualTo(HardProofCommand.WRONG_USE);
    assertThat(result.err()).startsWith("hard-proof: --pace: ");
  }

  @ParameterizedTest
  @ValueSource(strings = {"serve", "import", "evaluate", "drill", "pack", "verify"})
  void everyCommandHelps(String command) {
    Result result = run(command, "--help");
    assertThat(result.code()).isEqualTo(HardProofCommand.FINE);
    assertThat(result.out()).startsWith("Usage: hard-proof " + command);
  }

  @Test
  void wrongUseIsTwo() {
    assertThat(run().code()).isEqualTo(HardProofCommand.WRONG_USE);
    assertThat(run("restore").err()).contains("Unmatched argument at index 0: 'restore'");
    assertThat(run("drill").code()).isEqualTo(HardProofCommand.WRONG_USE);
    assertThat(run("evaluate", "--data", data, "--as-at", "yesterday"))
        .isEqualTo(new Result(
            2,
            "",
            "hard-proof: --as-at 'yesterday': is not a time; write it as 2026-11-24T03:10:00Z\n"));
  }

  @ParameterizedTest
  @CsvSource({
    "127.0.0.1, http://localhost:8080",
    "0.0.0.0, http://localhost:8080",
    "::, http://localhost:8080",
    "10.1.2.3, http://10.1.2.3:8080",
    "2001:db8::7, http://[2001:db8::7]:8080"
  })
  void theServerIsWhereItListens(String host, String address) {
    assertThat(ServeCommand.here(host, 8080)).isEqualTo(address);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"proof.example", "ftp://proof.example", "https://", "http://a b", "https://a?b"})
  void anOwnAddressThatNobodyCouldAnswerToIsRefused(String address) {
    Result result = run("serve", "--data", data, "--own-address", address);
    assertThat(result.code()).isEqualTo(2);
    assertThat(result.err())
        .startsWith("hard-proof: --own-address: '" + address + "' is no address")
        .endsWith("; write it as https://proof.example or http://proof.example:8080.\n");
  }

  @Test
  void aFolderWithoutDataIsSaidToBeOne() {
    Result result = run("evaluate", "--data", folder.resolve("nothing").toString());
    assertThat(result.code()).isEqualTo(2);
    assertThat(result.err()).contains("holds no data of Hard Proof yet").contains("--data");
    run("drill", "--data", folder.resolve("nothing").toString(), "x", "--reason", "y");
    assertThat(folder.resolve("nothing")).doesNotExist();
  }

  @Test
  void evaluatingSaysByWhatWasKnownWhen() {
    Result then = run("evaluate", "--data", data, "--as-at", "2026-11-24T10:00:00Z");
    assertThat(then.out()).startsWith("as at 2026-11-24T10:00:00Z, standard ");
    Result hindsight =
        run("evaluate", "--data", data, "--as-at", "2026-11-24T09:00:00Z", "--known-at", "now");
    assertThat(hindsight.out())
        .startsWith("as at 2026-11-24T09:00:00Z, in hindsight by facts recorded until ")
        .contains("Wages");
    assertThat(
            run("evaluate", "--data", data, "--as-at", "2026-11-24T09:00:00Z").err())
        .as("nothing was known then")
        .contains("nothing was known then");
    assertThat(run("evaluate", "--data", data, "--known-at", "now"))
        .isEqualTo(new Result(
            2,
            "",
            "hard-proof: --known-at says by what was known when of the instant of --as-at; give"
                + " both\n"));
    assertThat(
            run("evaluate", "--data", data, "--as-at", "2026-11-24T10:00:00Z", "--known-at", "soon")
                .err())
        .isEqualTo("hard-proof: --known-at 'soon': is not a time; write it as"
            + " 2026-11-24T03:10:00Z\n");
    assertThat(run("evaluate", "--facts", "x.json", "--known-at", "now").err())
        .contains("--facts and --known-at don't go together");
  }

  @Test
  void anImportMaySayHowFarItHasLooked() throws IOException {
    Path file = folder.resolve("workloads.csv");
    Files.writeString(file, "key,name,tier\nu,U,1\n");
    Result taken = run(
        "import",
        "--data",
        data,
        "--feed",
        "journal",
        "--covers-until",
        "2026-11-24T09:30:00Z",
        file.toString());
    assertThat(taken.out()).contains("; taken; it speaks until 2026-11-24T09:30:00Z");
    Result wrong = run(
        "import", "--data", data, "--feed", "journal", "--covers-until", "noon", file.toString());
    assertThat(wrong.code()).isEqualTo(2);
    assertThat(wrong.err()).startsWith("hard-proof: --covers-until 'noon': is not a time");
    Result toCome = run(
        "import",
        "--data",
        data,
        "--feed",
        "journal",
        "--covers-until",
        "2100-01-01T00:00:00Z",
        file.toString());
    assertThat(toCome.out())
        .contains("is still to come")
        .contains("nothing of this file was taken");
    assertThat(toCome.code()).isEqualTo(1);
  }

  /** A recipe that was taken away as JSON reads a report without being kept here. */
  @Test
  void aReportIsReadByARecipeOutOfAFile() throws IOException {
    Path report = Files.writeString(
        folder.resolve("jobs.csv"), "Id,Host,Begun,Ended well\n1,till,2026-11-01 02:00,yes\n");
    Path recipe = Files.writeString(
        folder.resolve("theirs.recipe.json"),
        "{\"name\":\"theirs\",\"zone\":\"UTC\",\"outputs\":[{\"file\":\"points\",\"fields\":{"
            + "\"key\":{\"expression\":\"host + '-' + id\"},\"resource\":{\"column\":\"Host\"},"
            + "\"form\":{\"otherwise\":\"full\"},\"started\":{\"column\":\"Begun\"},"
            + "\"outcome\":{\"column\":\"Ended well\",\"meanings\":{\"yes\":\"complete\"}}}}]}");
    Result taken = run(
        "import",
        "--data",
        data,
        "--feed",
        "theirs",
        "--recipe",
        recipe.toString(),
        report.toString());
    assertThat(taken.code()).as(taken.err()).isZero();
    assertThat(taken.out()).startsWith("jobs.csv as points: 1 row read = 1 new");
    Result unknown = run(
        "import", "--data", data, "--feed", "theirs", "--recipe", "nobody's", report.toString());
    assertThat(unknown.err()).contains("there is no recipe 'nobody's', nor a file of that name");
    Files.writeString(recipe, "{\"name\":\"x\"}");
    Result none = run(
        "import",
        "--data",
        data,
        "--feed",
        "theirs",
        "--recipe",
        recipe.toString(),
        report.toString());
    assertThat(none.err()).contains("is no recipe: it needs a name and outputs");
  }

  @Test
  void importTellsWhatItTookAndEndsWithOneWhenARowWasRejected() throws IOException {
    Path file = folder.resolve("workloads.csv");
    Files.writeString(file, "key,name,tier\nv,V,1\n");
    Result good = run("import", "--data", data, "--feed", "cli", file.toString());
    assertThat(good.out())
        .isEqualTo(
            "workloads.csv: 1 row read = 1 new + 0 changed + 0 unchanged + 0 rejected; taken\n");
    assertThat(good.code()).isEqualTo(0);
    Files.writeString(file, "key,name,tier\nv,V,1\nu,U,five\n");
    Result bad =
        run("import", "--data", data, "--feed", "cli", "--none-if-rejected", file.toString());
    assertThat(bad.out())
        .contains("1 rejected; nothing of it was taken")
        .contains("workloads.csv, line 3, tier \"five\": is not a whole number from 1 to 4");
    assertThat(bad.code()).isEqualTo(1);
    assertThat(run(
                "import",
                "--data",
                data,
                "--feed",
                "cli",
                folder.resolve("none.csv").toString())
            .err())
        .contains("none.csv is not there");
  }

  @Test
  void previewOfAnImportStoresNothing() throws IOException {
    Path file = folder.resolve("workloads.csv");
    Files.writeString(file, "key,name\nv,V\n");
    assertThat(run("import", "--data", data, "--feed", "cli", "--preview", file.toString())
            .out())
        .contains("1 new");
    assertThat(run("import", "--data", data, "--feed", "cli", "--preview", file.toString())
            .out())
        .contains("1 new");
  }

  @Test
  void fromFactsToAVerifiedPack() throws IOException {
    Result evaluated = run("evaluate", "--data", data);
    assertThat(evaluated.code()).isEqualTo(1);
    assertThat(evaluated.out().lines().reduce((a, b) -> b).orElseThrow())
        .matches("\\d+ [a-z]+(, \\d+ [a-z]+)*");
    assertThat(evaluated.out()).contains("Wages");

    Result drill =
        run("drill", "--data", data, "--stores", folder.toString(), "share", "--reason", "a test");
    assertThat(drill.out())
        .contains("ok       Compare with the manifest")
        .contains("restore done, checks passed, clean-up done");
    assertThat(drill.code()).isEqualTo(0);

    Path pack = folder.resolve("pack.zip");
    Result packed = run("pack", "--data", data, "--out", pack.toString());
    assertThat(packed.code()).as(packed.err()).isEqualTo(0);
    assertThat(packed.out()).contains("SHA-256");
    assertThat(run("pack", "--data", data, "--out", pack.toString()).err())
        .contains("is not written over");

    Result verified = run("verify", pack.toString());
    assertThat(verified.code()).isEqualTo(0);
    assertThat(verified.out())
        .endsWith("The pack is whole, and its verdicts follow from its facts.\n");

    Path head = Files.writeString(folder.resolve("head.json"), "{}");
    Result noHead = run("verify", pack.toString(), "--head", head.toString());
    assertThat(noHead.code()).isEqualTo(2);
    assertThat(noHead.err()).contains("holds no head of a ledger as Evidence gives it out");
    assertThat(run("verify", pack.toString(), "--head", folder.resolve("none").toString())
            .code())
        .isEqualTo(2);

    byte[] bytes = Files.readAllBytes(pack);
    bytes[bytes.length / 3] ^= 1;
    Files.write(pack, bytes);
    Result changed = run("verify", pack.toString());
    assertThat(changed.code()).isEqualTo(1);
    assertThat(changed.out())
        .contains("FAILED")
        .endsWith("Ask whoever issued it for the original.\n");
  }

  /** Somebody has rewritten what happened: no pack is made of it, and a pipeline is told. */
  @Test
  void noPackIsMadeOfALedgerThatDiffers() throws Exception {
    assertThat(run(
                "drill",
                "--data",
                data,
                "--stores",
                folder.toString(),
                "share",
                "--reason",
                "a test")
            .code())
        .isEqualTo(0);
    try (Connection c =
            DriverManager.getConnection("jdbc:sqlite:" + Path.of(data).resolve("hard-proof.db"));
        Statement s = c.createStatement()) {
      s.execute("UPDATE drill_run SET sentence = 'all is well'");
    }
    Path pack = folder.resolve("pack.zip");
    Result refused = run("pack", "--data", data, "--out", pack.toString());
    assertThat(refused.code()).isEqualTo(2);
    assertThat(refused.err())
        .contains("The ledger differs from what was recorded")
        .contains("No pack is issued until it is cleared up");
    assertThat(pack).doesNotExist();
  }

  @Test
  void theExposureAloneIsATableOfTheFolderAndOfAPackAlike() throws Exception {
    Result table = run("evaluate", "--data", data, "--exposure", "--as-at", "2026-11-24T10:00:00Z");
    assertThat(table.code()).isEqualTo(HardProofCommand.FINE);
    List<String> rows = table.out().lines().toList();
    assertThat(rows.get(0)).isEqualTo("resource,rpo_s,exposure_s,worst_s,attainment,by_proof_s");
    // The share's newest point is of 04:00, the database's of 05:00.
    assertThat(rows).anyMatch(r -> r.startsWith("share,86400,21600,"));
    assertThat(rows).anyMatch(r -> r.startsWith("db,86400,18000,"));
    Path pack = folder.resolve("pack.zip");
    run("pack", "--data", data, "--out", pack.toString());
    Path facts = folder.resolve("facts.json");
    Files.write(facts, hardproof.proving.bags.BagReader.open(pack).file("data/facts.json"));
    assertThat(run(
            "evaluate",
            "--facts",
            facts.toString(),
            "--exposure",
            "--as-at",
            "2026-11-24T10:00:00Z"))
        .isEqualTo(table);
  }

  /** Options that contradict each other, and values nobody can read: the option and the value are named. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "--csv --exposure | --csv and --exposure don't go together: each prints a table of its own",
        "--usable --exposure | --exposure and --usable don't go together",
        "--findings | --findings says which table --csv prints; give both",
        "--facts f.json --data d | --facts and --data don't go together",
        "--facts f.json --stores d | --facts and --stores don't go together",
        "--facts nowhere.json | --facts nowhere.json: no such file",
        "--as-at 24.11.2026 | --as-at '24.11.2026': is not a time",
      })
  void evaluateRefusesWhatDoesNotFit(String options, String said) {
    List<String> args = new ArrayList<>(List.of("evaluate"));
    if (!options.contains("--facts")) {
      args.addAll(List.of("--data", data));
    }
    args.addAll(List.of(options.split(" ")));
    Result result = run(args.toArray(String[]::new));
    assertThat(result.code()).isEqualTo(2);
    assertThat(result.out()).isEmpty();
    assertThat(result.err()).startsWith("hard-proof: " + said);
  }

  @Test
  void otherCommandsNameTheOptionAndItsValueToo() {
    assertThat(run("pack", "--data", data, "--scope", "{").err())
        .startsWith("hard-proof: --scope '{': ");
    assertThat(run("pack", "--data", data, "--as-at", "noon").err())
        .startsWith("hard-proof: --as-at 'noon': is not a time");
    assertThat(run("drill", "--data", data, "share", "--reason", "x", "--method", "magic")
            .err())
        .startsWith("hard-proof: --method 'magic': ");
  }

  /** Nothing was known: neither a fine result nor findings. */
  @ParameterizedTest
  @ValueSource(strings = {"evaluate", "pack"})
  void beforeTheFirstFactNothingCanBeSaid(String command) throws IOException {
    Result result = run(command, "--data", data, "--as-at", "2001-01-01T00:00:00Z");
    assertThat(result.code()).isEqualTo(2);
    assertThat(result.err())
        .startsWith("hard-proof: --as-at 2001-01-01T00:00:00Z: nothing was known then; the first"
            + " facts came at 20");
    Path empty = folder.resolve("empty");
    Path file = Files.writeString(folder.resolve("stores.csv"), "key,name,medium\ns,S,disk\n");
    run("import", "--data", empty.toString(), "--feed", "f", file.toString());
    Result nothing = run(command, "--data", empty.toString());
    assertThat(nothing.code()).isEqualTo(2);
    assertThat(nothing.err()).contains("othing");
  }

  @Test
  void everyPointIsListedWithWhatItIsWorth() {
    Result table = run("evaluate", "--data", data, "--usable", "--as-at", "2026-11-24T10:00:00Z");
    assertThat(table.code()).isEqualTo(HardProofCommand.FINE);
    List<String> rows = table.out().lines().toList();
    assertThat(rows.get(0))
        .isEqualTo("resource,point,data_time,form,usable,why_not,chain_length,blast_radius,"
            + "reach_lost_s,safe_to_delete,why_keep");
    assertThat(rows)
        .contains(
            "share,share-1,2026-11-23T04:00:00Z,full,yes,,1,2,108000,no,1 point hangs from it",
            "share,share-2,2026-11-24T04:00:00Z,incremental,yes,,2,1,0,no,\"without it 30 h would be"
                + " lost, over the RPO of 24 h\"",
            "db,db-1,2026-11-24T05:00:00Z,full,yes,,1,1,18000,no,it is the only usable point");
  }

  /** No name of a class in anything a person reads. */
  @Test
  void whatGoesWrongIsSaidInWords() throws IOException {
    assertThat(HardProofCommand.message(new NoSuchFileException("a"))).isEqualTo("a is not there");
    assertThat(HardProofCommand.message(new FileAlreadyExistsException("a")))
        .isEqualTo("a is there already");
    assertThat(HardProofCommand.message(new AccessDeniedException("a")))
        .isEqualTo("a may not be read or written by this user");
    assertThat(HardProofCommand.message(new FileSystemException("a", null, "Too many links")))
        .isEqualTo("a can't be read or written: Too many links");
    assertThat(HardProofCommand.message(new IOException("the pipe broke")))
        .isEqualTo("the pipe broke");
    String fault = HardProofCommand.message(new IllegalStateException("oh"));
    assertThat(fault).startsWith("a fault of ours. What we need to find it is in ");
    Path trace = Path.of(fault.replaceAll(".* is in (.*); please.*", "$1"));
    assertThat(Files.readString(trace)).contains("IllegalStateException: oh");
    Files.delete(trace);
  }

  @Test
  void whoComesWhileAnotherProcessWritesIsToldWhatToDo() {
    for (Exception e : List.of(
        new CannotAcquireLockException("locked"),
        new CannotCreateTransactionException("can't begin"))) {
      assertThat(HardProofCommand.message(e))
          .isEqualTo(
              "another process is writing to this data folder, such as an import. Nothing was"
                  + " changed; try again when it is done.");
    }
  }

  @Test
  void evaluatingTheFactsOfAPackNeedsNoDataFolder() throws Exception {
    Path pack = folder.resolve("pack.zip");
    run("pack", "--data", data, "--out", pack.toString());
    var bag = hardproof.proving.bags.BagReader.open(pack);
    Path facts = folder.resolve("facts.json");
    Files.write(facts, bag.file("data/facts.json"));
    Result csv = run("evaluate", "--facts", facts.toString(), "--csv");
    assertThat(csv.out()).isEqualTo(bag.text("data/workloads.csv"));
    assertThat(
            run("evaluate", "--facts", facts.toString(), "--csv", "--findings").out())
        .isEqualTo(bag.text("data/findings.csv"));
  }

  @Test
  void aDrillThatFailsEndsWithOneAndOneThatIsRefusedWithTwo() throws IOException {
    Path artifact = folder.resolve("near/share-2.tar.gz");
    byte[] bytes = Files.readAllBytes(artifact);
    bytes[bytes.length / 2] ^= 1;
    Files.write(artifact, bytes);
    Result failed = run(
        "drill",
        "--data",
        data,
        "--stores",
        folder.toString(),
        "share",
        "--method",
        "read-through",
        "--reason",
        "x");
    assertThat(failed.code()).isEqualTo(1);
    assertThat(failed.out()).contains("the copy is damaged");
    assertThat(run("drill", "--data", data, "db", "--method", "boot", "--reason", "x")
            .err())
        .contains("A drill by boot does not suit a database");
  }

  @Test
  void aPortThatIsTakenIsSaidToBe() throws IOException {
    try (ServerSocket taken = new ServerSocket(0, 1, InetAddress.getByName("127.0.0.1"))) {
      Result result =
          run("serve", "--data", data, "--port", Integer.toString(taken.getLocalPort()));
      assertThat(result.code()).isEqualTo(2);
      assertThat(result.err())
          .contains("port " + taken.getLocalPort() + " is in use")
          .contains("--port");
    }
  }

  @Test
  void aDataFolderThatIsTakenIsSaidToBe() throws IOException {
    try (var lock = new hardproof.server.storage.DataFolder(Path.of(data)).tryLock()) {
      assertThat(lock.isValid()).isTrue();
      Result result = run("serve", "--data", data, "--port", "0");
      assertThat(result.code()).isEqualTo(2);
      assertThat(result.err()).contains("is in use by another Hard Proof");
    }
  }

  @Test
  void aDatabaseThatIsNotOursIsRefused() throws IOException {
    Path other = Files.createDirectories(folder.resolve("other"));
    Files.write(other.resolve("hard-proof.db"), List.of("something else"));
    assertThat(run("evaluate", "--data", other.toString()).err())
        .contains("is not a SQLite database");
  }
}
