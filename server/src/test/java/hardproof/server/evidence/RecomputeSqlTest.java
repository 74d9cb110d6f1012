package hardproof.server.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.criteria.Standard;
import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.estate.Selector;
import hardproof.core.evidence.Tables;
import hardproof.server.Estate;
import hardproof.server.Shell;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * The figures of a pack computed a second time, in SQL by the sqlite3 command, over estates that are drawn at random with
 * everything that is unusual: broken chains, bases that are gone, copies that were damaged, deleted or never there, stores
 * that nobody described, drills that blame and others that take back, feeds that are silent.
 */
class RecomputeSqlTest {
  private static final Instant LATER = Estate.NOW.plus(Duration.ofDays(3));

  @TempDir
  Path folder;

  private Random random;
  private final List<String> points = new ArrayList<>();
  private final List<DrillFact> drills = new ArrayList<>();

  private String of(String... choices) {
    return choices[random.nextInt(choices.length)];
  }

  private static String at(Instant instant) {
    return instant.toString();
  }

  /** What one resource has by an instant. */
  private void addPoints(
      int resource, Instant from, Instant until, StringBuilder csv, StringBuilder copies) {
    List<String> own = new ArrayList<>();
    Instant data = from;
    while (data.isBefore(until) && own.size() < 25) {
      data = data.plusMillis(1 + (long) (random.nextDouble() * 30 * 3_600_000));
      String key = "r" + resource + "-" + points.size();
      String form = of(
          "full", "incremental", "incremental", "incremental", "differential", "log", "snapshot");
      String base = own.isEmpty() || random.nextInt(4) == 0
          ? of("", "", "gone-" + resource)
          : own.get(Math.max(0, own.size() - 1 - random.nextInt(3)));
      if (form.equals("full") && random.nextInt(3) > 0) {
        base = "";
      }
      Instant available = data.plusMillis(random.nextInt(4 * 3_600_000));
      csv.append(String.join(
              ",",
              key,
              "r" + resource,
              form,
              base,
              at(data),
              available.isAfter(until) || random.nextInt(15) == 0 ? "" : at(available),
              of("complete", "complete", "complete", "complete", "complete", "partial", "failed"),
              of("", "file", "crash", "application", "application")))
          .append('\n');
      addCopies(key, data, until, copies);
      own.add(key);
      points.add(key);
    }
  }

  private void addCopies(String point, Instant data, Instant until, StringBuilder copies) {
    for (String store : List.of("near", "far", "same", "dup", "nobody-knows")) {
      if (random.nextInt(store.equals("near") ? 8 : 2) == 0) {
        continue;
      }
      Instant finished = data.plusMillis(random.nextInt(40 * 3_600_000));
      String read = of("", "", "", "passed", "failed");
      copies
          .append(String.join(
              ",",
              point,
              store,
              finished.isAfter(until) || random.nextInt(10) == 0 ? "" : at(finished),
              of("present", "present", "present", "present", "missing", "damaged", "deleted"),
              of("", at(LATER.plusSeconds(60)), at(data)),
              of("", at(data.plus(Duration.ofHours(10))), at(LATER.plus(Duration.ofDays(9)))),
              read.isEmpty() || random.nextInt(5) == 0 ? "" : at(data.plusMillis(5)),
              read))
          .append('\n');
    }
  }

  private void addDrills() {
    Instant ended = Estate.NOW.minus(Duration.ofDays(20));
    for (int i = 0; i < 300; i++) {
      ended = ended.plusMillis(1 + random.nextInt(2 * 3_600_000));
      // Of a few points several, so that one takes back what another found.
      String point = points.get(points.size() / 40 * random.nextInt(40));
      String store = of("near", "far");
      Method method = List.of(
              Method.READ_BACK,
              Method.READ_THROUGH,
              Method.FULL_RESTORE,
              Method.DATABASE,
              Method.PRESENCE)
          .get(random.nextInt(5));
      boolean failed = random.nextInt(5) > 1;
      boolean blames = failed && random.nextInt(4) > 0;
      drills.add(new DrillFact(
          "run-" + i,
          new DrillFact.Of(point.substring(0, point.indexOf('-')), point, store),
          method,
          method.rung(),
          new DrillFact.Answers(
              random.nextInt(10) == 0 ? RestoreState.INTERRUPTED : RestoreState.DONE,
              failed ? ChecksState.FAILED : ChecksState.PASSED,
              CleanupState.DONE),
          new DrillFact.Times(ended.minusSeconds(60), ended, ended),
          7,
          new DrillFact.Blame(blames ? point : null, blames && random.nextBoolean() ? store : null),
          "drawn"));
    }
  }

  private hardproof.core.facts.Estate drawn(Estate estate) throws IOException {
    estate.take(
        "stores.csv",
        "key,name,site,medium,failure_domain,online\nnear,N,A,disk,array,yes\nfar,F,B,tape,,no\nsame,S,A,disk,prod,yes\n"
            + "dup,D,B,disk,array,yes\n");
    estate.take(
        "policies.csv", "key,name,schedule,copy_to\na,A,24h,far:24h\nb,B,12h,near:2h;far:30h\n");
    estate.take(
        "workloads.csv", "key,name,owner,tier\nw1,1,x,1\nw2,2,x,2\nw3,3,x,3\nw4,4,x,4\nw0,0,x,\n");
    StringBuilder resources =
        new StringBuilder("key,name,kind,workload,site,first_seen,tags,parent\n");
    for (int i = 0; i < 30; i++) {
      resources
          .append(String.join(
              ",",
              "r" + i,
              "R" + i,
              of("file-share", "database", "virtual-machine"),
              "w" + random.nextInt(5),
              of("A", "B", ""),
              of("", "2026-01-01T00:00:00Z", at(Estate.NOW.minusMillis(random.nextInt()))),
              of("", "failure_domain=prod", "failure_domain=array"),
              i > 0 && random.nextInt(4) == 0 ? "r" + random.nextInt(i) : ""))
          .append('\n');
    }
    estate.take("resources.csv", resources.toString());
    bring(estate, Estate.NOW.minus(Duration.ofDays(25)), Estate.NOW);
    estate.clock.forward(Duration.ofDays(3));
    bring(estate, Estate.NOW, LATER);
    addDrills();
    return PackScope.of(estate.installation.evaluations().now().estate(), Selector.EVERYTHING);
  }

  private void bring(Estate estate, Instant from, Instant until) throws IOException {
    StringBuilder csv =
        new StringBuilder("key,resource,form,based_on,data_time,available,outcome,consistency\n");
    StringBuilder copies = new StringBuilder(
        "point,store,finished,state,locked_until,expires,last_read,last_read_outcome\n");
    for (int i = 0; i < 30; i++) {
      // Of some nothing is told any more: their feed is silent of them.
      if (random.nextInt(5) > 0) {
        addPoints(i, from, until, csv, copies);
      }
    }
    estate.take("points.csv", csv.toString());
    estate.take("copies.csv", copies.toString());
  }

  private FactsJson facts(hardproof.core.facts.Estate drawn) {
    return new FactsJson(
        drawn.holding(drawn.facts().withDrills(drills)),
        Standard.shipped(),
        "drawn",
        Selector.EVERYTHING,
        List.of(),
        PackHistory.from(LATER.minus(Duration.ofDays(90))));
  }

  private void lay(FactsJson facts) throws IOException {
    Files.createDirectories(folder.resolve("bag/data"));
    Files.write(folder.resolve("bag/data/facts.sqlite"), TablesFile.of(facts));
    Files.writeString(
        folder.resolve("bag/data/findings.csv"), Tables.findings(PackBuilder.evaluate(facts)));
    try (InputStream script = PackBuilder.class.getResourceAsStream("/evidence/recompute.sql")) {
      Files.createDirectories(folder.resolve("bag/proof"));
      Files.write(folder.resolve("bag/proof/recompute.sql"), script.readAllBytes());
    }
  }

  private String recomputed() throws Exception {
    return Shell.run(
        folder.resolve("bag"),
        "sh",
        "-c",
        "sqlite3 -readonly data/facts.sqlite < proof/recompute.sql");
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
  void everyFigureComesOutTheSameInSql(long seed) throws Exception {
    random = new Random(seed);
    try (Estate estate = new Estate(folder)) {
      FactsJson facts = facts(drawn(estate));
      assertThat(facts.estate().pointCount()).isGreaterThan(200);
      assertThat(facts.estate().copyCount()).isGreaterThan(400);
      lay(facts);
    }
    String said = recomputed();
    assertThat(said.lines().filter(l -> !l.startsWith("compared") && !l.startsWith("usable")))
        .isEmpty();
    assertThat(said.lines())
        .filteredOn(l -> l.startsWith("compared"))
        .hasSize(4)
        .allSatisfy(l -> assertThat(l).contains("figures, 0 differ"));
  }

  /** A figure that was written over, in each of the four criteria, is a line. */
  @Test
  void aFigureThatDoesNotFollowIsNamed() throws Exception {
    random = new Random(9);
    try (Estate estate = new Estate(folder)) {
      lay(facts(drawn(estate)));
    }
    Path findings = folder.resolve("bag/data/findings.csv");
    String right = Files.readString(findings);
    for (String criterion :
        List.of("fresh-exposure-now", "fresh-attainment", "copies-number", "copies-deadline")) {
      Files.writeString(
          findings,
          right.replaceFirst("(," + criterion + ",[^,]*,(?:not-)?met,)([0-9.]+)", "$112345678.5"));
      assertThat(recomputed().lines().filter(l -> l.startsWith(criterion + " of ")))
          .as(criterion)
          .hasSize(1);
    }
  }

  /** One row, one column and one table too many, and bytes that are none of SQLite's. */
  @Test
  void tablesThatDoNotFollowFromTheFactsAreNamed() throws Exception {
    random = new Random(10);
    FactsJson facts;
    try (Estate estate = new Estate(folder)) {
      facts = facts(drawn(estate));
    }
    byte[] right = TablesFile.of(facts);
    assertThat(TablesFile.of(facts)).isEqualTo(right);
    assertThat(difference(right, facts)).isNull();
    assertThat(forged(right, facts, "VACUUM"))
        .isEqualTo("byte 27 is not what facts.json gives, though no table holds it");
    assertThat(difference(byAnotherSqlite(done(right, "VACUUM")), facts)).isNull();
    assertThat(forged(right, facts, "UPDATE drill SET passed = 1 WHERE run = 'run-3'"))
        .isEqualTo(
            drills.get(3).passed() ? null : "its table drill has other rows than facts.json gives");
    assertThat(forged(right, facts, "INSERT INTO store SELECT * FROM store LIMIT 1"))
        .isEqualTo("its table store has other rows than facts.json gives");
    assertThat(forged(right, facts, "CREATE TABLE more (a)"))
        .isEqualTo("its tables are not those that facts.json gives");
    assertThat(forged(
            right, facts, "ALTER TABLE drill RENAME TO d; CREATE VIEW drill AS SELECT * FROM d"))
        .isEqualTo("its tables are not those that facts.json gives");
    assertThat(difference("none".getBytes(StandardCharsets.UTF_8), facts))
        .contains("SQLite can't read it");
  }

  private String forged(byte[] right, FactsJson facts, String how) throws Exception {
    return difference(done(right, how), facts);
  }

  private byte[] done(byte[] right, String how) throws Exception {
    Path file = Files.write(folder.resolve("forged.sqlite"), right);
    try (Connection sql = DriverManager.getConnection("jdbc:sqlite:" + file);
        Statement s = sql.createStatement()) {
      for (String one : how.split("; ")) {
        s.execute(one);
      }
    }
    return Files.readAllBytes(file);
  }

  /** Bytes 96 to 99 are the version of the SQLite that wrote last. Source: "Database File Format" of SQLite, 1.3. */
  private static byte[] byAnotherSqlite(byte[] file) {
    ByteBuffer.wrap(file).putInt(96, 3_040_001);
    return file;
  }

  private static String difference(byte[] theirs, FactsJson facts) throws IOException {
    return FactsTables.difference(() -> new ByteArrayInputStream(theirs), facts);
  }
}
