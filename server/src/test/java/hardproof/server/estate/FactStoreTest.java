package hardproof.server.estate;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.facts.Facts;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class FactStoreTest extends WithEstate {
  private Facts facts(long historyMost, Instant asAt) {
    return new FactStore(estate.installation.database(), i -> List.of(), historyMost).facts(asAt);
  }

  /** From memory or from the file, at every instant that something changed and just beside it. */
  @Test
  void bothWaysOfReadingThePastGiveTheSame() throws IOException {
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
    FactStore memory = new FactStore(estate.installation.database(), i -> List.of());
    for (int day = -1; day <= 7; day++) {
      for (int beside = -1; beside <= 1; beside++) {
        Instant asAt = Estate.NOW.plus(Duration.ofDays(day)).plusMillis(beside);
        assertThat(memory.facts(asAt)).as(asAt.toString()).isEqualTo(facts(-1, asAt));
      }
    }
    assertThat(memory.facts(Estate.NOW.plus(Duration.ofDays(7))).workloads()).hasSize(7);
  }

  @Test
  void whatIsKeptInMemoryIsReadAgainAfterAnImport() throws IOException {
    FactStore memory = new FactStore(estate.installation.database(), i -> List.of());
    assertThat(memory.facts(estate.clock.instant()).workloads()).hasSize(1);
    estate.take("workloads.csv", "key,name\nnew,New\n");
    assertThat(memory.facts(estate.clock.instant()).workloads()).hasSize(2);
  }

  @Test
  void anEstateThatIsTooLargeForMemoryIsReadFromTheFile() throws IOException {
    FactStore file = new FactStore(estate.installation.database(), i -> List.of(), 5);
    assertThat(file.facts(estate.clock.instant()).points()).hasSize(3);
    estate.take("workloads.csv", "key,name\nnew,New\n");
    assertThat(file.facts(estate.clock.instant()).workloads()).hasSize(2);
    assertThat(file.facts(Estate.NOW.minusMillis(1)).workloads()).isEmpty();
  }
}
