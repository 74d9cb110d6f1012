package hardproof.server.facts;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.criteria.Standard;
import hardproof.core.estate.Feed;
import hardproof.core.evidence.Tables;
import hardproof.core.facts.PointSource;
import hardproof.core.facts.State;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import hardproof.server.storage.Database;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class FactStoreTest extends WithEstate {
  private FactStore store(long mergedMost) {
    return store(estate.installation.database(), mergedMost);
  }

  private static FactStore store(Database database, long mergedMost) {
    return new FactStore(
        database,
        i -> List.of(),
        i -> List.of(),
        i -> List.of(),
        i -> List.of(),
        new PackedPoints(database, mergedMost));
  }

  private void forgetPacked() {
    Database database = estate.installation.database();
    database.write(() -> database.writes().sql("DELETE FROM packed_points").update());
    database.write(() -> database
        .writes()
        .sql("UPDATE packed_upto SET point_row = 0, copy_row = 0")
        .update());
  }

  /** Points and copies straight from their rows. */
  private hardproof.core.facts.Estate byRows(FactStore store, Instant asAt) {
    return estate
        .installation
        .database()
        .onReader(c -> new hardproof.core.facts.Estate(
            asAt,
            store.estate(asAt).facts(),
            PointSource.of(
                known(FactTables.POINTS.states(c), asAt),
                known(FactTables.COPIES.states(c), asAt))));
  }

  private static <T> List<T> known(List<State<T>> states, Instant asAt) {
    return states.stream()
        .filter(s -> s.knownAt(asAt.toEpochMilli()))
        .map(State::fact)
        .toList();
  }

  private static String outcomes(hardproof.core.facts.Estate facts) {
    Evaluation evaluation = Evaluator.evaluate(facts, Standard.shipped());
    return Tables.workloads(evaluation) + Tables.findings(evaluation);
  }

  private static String point(String key, String resource, int day) {
    return key + "," + resource + ",full,2026-11-" + (20 + day) + "T01:00:00Z,2026-11-" + (20 + day)
        + "T02:00:00Z,complete\n";
  }

  /** By rows, merged step by step, and packed in one go: at every instant that something changed. */
  @Test
  void packedPointsComeOutAsTheirRowsAtEveryInstant() throws IOException {
    FactStore merged = store(Long.MAX_VALUE);
    String points = "key,resource,form,data_time,available,outcome\n";
    for (int day = 1; day <= 6; day++) {
      estate.clock.forward(Duration.ofDays(1));
      estate.take(
          "workloads.csv",
          "key,name,owner,tier\nw,Wages,Owner " + day % 3 + ",3\nw" + day + ",W,,1\n");
      switch (day) {
        case 2, 4, 6 ->
          estate.take(
              "copies.csv",
              "point,store,state\nshare-1,near," + (day == 4 ? "deleted" : "present")
                  + "\nlate,near,present\n");
        case 3 -> // one is new, one is told of another resource, one comes after its copy
          estate.take(
              "points.csv",
              points
                  + point("new", "share", 1)
                  + point("db-1", "share", 2)
                  + point("late", "db", 3));
        default -> estate.take("points.csv", points + point("p" + day, "db", day));
      }
      assertThat(outcomes(merged.estate(estate.clock.instant())))
          .as("day " + day)
          .isEqualTo(outcomes(byRows(merged, estate.clock.instant())));
    }
    List<String> bySteps = new ArrayList<>();
    List<Instant> instants = new ArrayList<>();
    for (int day = -1; day <= 7; day++) {
      for (int beside = -1; beside <= 1; beside++) {
        instants.add(Estate.NOW.plus(Duration.ofDays(day)).plusMillis(beside));
      }
    }
    instants.forEach(i -> bySteps.add(outcomes(merged.estate(i))));
    forgetPacked();
    FactStore anew = store(0);
    for (int i = 0; i < instants.size(); i++) {
      String rows = outcomes(byRows(anew, instants.get(i)));
      assertThat(bySteps.get(i)).as("merged, " + instants.get(i)).isEqualTo(rows);
      assertThat(outcomes(anew.estate(instants.get(i))))
          .as("anew, " + instants.get(i))
          .isEqualTo(rows);
    }
    assertThat(anew.estate(Estate.NOW.plus(Duration.ofDays(7))).facts().workloads())
        .hasSize(7);
  }

  @Test
  void whatIsKeptInMemoryIsReadAgainAfterAnImport() throws IOException {
    FactStore store = store(0);
    assertThat(store.estate(estate.clock.instant()).facts().workloads()).hasSize(1);
    estate.take("workloads.csv", "key,name\nnew,New\n");
    assertThat(store.estate(estate.clock.instant()).facts().workloads()).hasSize(2);
  }

  @Test
  void pointsAreKnownFromTheInstantTheyCameIn() {
    FactStore store = store(5);
    assertThat(store.estate(estate.clock.instant()).pointsOf("share")).hasSize(2);
    assertThat(store.estate(Estate.NOW.minusMillis(1)).pointsOf("share")).isEmpty();
    assertThat(store.estate(estate.clock.instant()).pointsOf("nothing")).isEmpty();
  }

  /** A feed that was not known then is in no result as at then, whatever was said of it since. */
  @Test
  void aFeedThatHadBroughtNothingYetIsNotKnown() throws IOException {
    assertThat(estate.expect("late", Duration.ofHours(26))).isFalse();
    assertThat(estate.expect("test", Duration.ofHours(26))).isTrue();
    List<Feed> before = store(0).estate(Estate.NOW.minusMillis(1)).facts().feeds();
    assertThat(before).isEmpty();
    assertThat(store(0).estate(Estate.NOW).facts().feeds())
        .extracting(Feed::key)
        .containsExactly("test");
  }

  /** Somebody imports into the same folder for long: who only reads is answered all the same. */
  @Test
  void whoReadsDoesNotWaitForWhoWrites() throws IOException, SQLException {
    Path file = estate.installation.folder().database();
    try (Database database = Database.open(file, Duration.ofMillis(20))) {
      FactStore merging = store(database, Long.MAX_VALUE);
      assertThat(merging.estate(estate.clock.instant()).pointsOf("share")).hasSize(2);
      estate.clock.forward(Duration.ofHours(1));
      estate.take(
          "points.csv",
          "key,resource,form,data_time,available,outcome\n" + point("more", "share", 1));
      Instant now = estate.clock.instant();
      try (Connection other = DriverManager.getConnection("jdbc:sqlite:" + file);
          Statement begin = other.createStatement()) {
        begin.execute("BEGIN IMMEDIATE");
        assertThat(merging.estate(now).pointsOf("share")).hasSize(3);
        assertThat(merging.estate(now).pointsOf("share")).hasSize(3);
        assertThat(store(database, 0).estate(now).pointsOf("share")).hasSize(3);
        begin.execute("ROLLBACK");
      }
      assertThat(packedUpto(database)).as("nothing could be written").isLessThan(4);
      assertThat(merging.estate(now).pointsOf("share")).hasSize(3);
      assertThat(packedUpto(database)).as("made good").isEqualTo(4);
      assertThat(store(database, 0).estate(now).pointsOf("share")).hasSize(3);
    }
  }

  private static long packedUpto(Database database) {
    return database
        .reads()
        .sql("SELECT point_row FROM packed_upto")
        .query(Long.class)
        .single();
  }

  @Test
  void whatAnotherVersionPackedIsPackedAgain() {
    Database database = estate.installation.database();
    assertThat(store(5).estate(estate.clock.instant()).pointsOf("share")).hasSize(2);
    database.write(() ->
        database.writes().sql("UPDATE packed_points SET body = zeroblob(100)").update());
    assertThat(store(5).estate(estate.clock.instant()).pointsOf("share")).hasSize(2);
  }

  @Test
  void whatFactsTouchedIsToldAndAnythingElseTouchesAll() throws IOException {
    Marks before = Marks.now(estate.installation.database());
    assertThat(before.touchedSince(before, estate.installation.database())).isEmpty();
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "db-2,db,full,2026-11-24T09:00:00Z,2026-11-24T09:30:00Z,complete\n");
    estate.take("copies.csv", "point,store,state\nshare-1,near,damaged\n");
    Marks after = Marks.now(estate.installation.database());
    assertThat(after.touchedSince(before, estate.installation.database()))
        .isEqualTo(Set.of("db", "share"));
    estate.clock.forward(Duration.ofMinutes(1));
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "db-2,bare,full,2026-11-24T09:00:00Z,2026-11-24T09:30:00Z,complete\n");
    assertThat(Marks.now(estate.installation.database())
            .touchedSince(after, estate.installation.database()))
        .as("the resource that it was told of before, too")
        .isEqualTo(Set.of("db", "bare"));
    estate.take("workloads.csv", "key,name\nnew,New\n");
    assertThat(Marks.now(estate.installation.database())
            .touchedSince(after, estate.installation.database()))
        .isNull();
  }
}
