package hardproof.server.estate;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.criteria.Standard;
import hardproof.core.evidence.Tables;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class FactStoreTest extends WithEstate {
  private FactStore store(long historyMost) {
    return new FactStore(estate.installation.database(), i -> List.of(), historyMost);
  }

  private static String outcomes(FactStore store, Instant asAt) {
    Evaluation evaluation = Evaluator.evaluate(store.estate(asAt), Standard.shipped());
    return Tables.workloads(evaluation) + Tables.findings(evaluation);
  }

  /** From memory or from the file, at every instant that something changed and just beside it. */
  @Test
  void bothWaysOfReadingThePastComeOutTheSame() throws IOException {
    String header = "key,name,owner,tier\n";
    for (int day = 1; day <= 6; day++) {
      estate.clock.forward(Duration.ofDays(1));
      estate.take("workloads.csv", header + "w,Wages,Owner " + day % 3 + ",3\nw" + day + ",W,,1\n");
      if (day % 2 == 0) {
        estate.take(
            "copies.csv",
            "point,store,state\nshare-1,near," + (day == 4 ? "deleted" : "present") + "\n");
      }
    }
    FactStore memory = store(Long.MAX_VALUE);
    FactStore file = store(-1);
    for (int day = -1; day <= 7; day++) {
      for (int beside = -1; beside <= 1; beside++) {
        Instant asAt = Estate.NOW.plus(Duration.ofDays(day)).plusMillis(beside);
        assertThat(outcomes(file, asAt)).as(asAt.toString()).isEqualTo(outcomes(memory, asAt));
      }
    }
    assertThat(memory.estate(Estate.NOW.plus(Duration.ofDays(7))).facts().workloads())
        .hasSize(7);
  }

  @Test
  void whatIsKeptInMemoryIsReadAgainAfterAnImport() throws IOException {
    FactStore memory = store(Long.MAX_VALUE);
    assertThat(memory.estate(estate.clock.instant()).facts().workloads()).hasSize(1);
    estate.take("workloads.csv", "key,name\nnew,New\n");
    assertThat(memory.estate(estate.clock.instant()).facts().workloads()).hasSize(2);
  }

  @Test
  void anEstateThatIsTooLargeForMemoryIsReadFromTheFile() throws IOException {
    FactStore file = store(5);
    assertThat(file.estate(estate.clock.instant()).facts().points()).isEmpty();
    assertThat(file.estate(estate.clock.instant()).pointsOf("share")).hasSize(2);
    assertThat(file.estate(Estate.NOW.minusMillis(1)).pointsOf("share")).isEmpty();
    assertThat(file.estate(estate.clock.instant()).pointsOf("nothing")).isEmpty();
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
    estate.take("workloads.csv", "key,name\nnew,New\n");
    assertThat(Marks.now(estate.installation.database())
            .touchedSince(after, estate.installation.database()))
        .isNull();
  }
}
