package hardproof.standins.estate;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.standins.estate.DemoEstate.Delivery;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The demo estate goes on: what feeds bring after it was made. */
class DemoLifeTest {
  private static final Instant MADE = Instant.parse("2026-11-24T10:00:00Z");

  @TempDir
  Path folder;

  private List<Delivery> between(double fromHours, double untilHours) throws IOException {
    return new DemoLife(folder, MADE, 5).between(at(fromHours), at(untilHours));
  }

  private static Instant at(double hours) {
    return MADE.plusSeconds((long) (hours * 3600));
  }

  private static Map<String, TreeSet<String>> rows(List<Delivery> deliveries) {
    return deliveries.stream()
        .collect(Collectors.groupingBy(
            Delivery::file,
            Collectors.flatMapping(
                d -> d.content().lines().skip(1), Collectors.toCollection(TreeSet::new))));
  }

  /** However often it is asked, the same rows come, each once. */
  @Test
  void inPiecesItBringsWhatItBringsAtOnce() throws IOException {
    Map<String, TreeSet<String>> whole = rows(between(0, 26));
    List<Delivery> pieces = new ArrayList<>();
    for (double hour = 0; hour < 26; hour += 1.625) {
      pieces.addAll(between(hour, hour + 1.625));
    }
    assertThat(rows(pieces)).isEqualTo(whole);
    assertThat(whole.keySet())
        .containsExactlyInAnyOrder("points.csv", "copies.csv", "jobs.csv", "resources.csv");
    int copies = pieces.stream()
        .filter(d -> d.file().equals("copies.csv"))
        .mapToInt(d -> (int) d.content().lines().count() - 1)
        .sum();
    assertThat(copies).isEqualTo(whole.get("copies.csv").size());
  }

  /** Tier 1 goes on every three hours, all else once a day; the silent feed says nothing. */
  @Test
  void everythingGoesOnAtItsOwnHours() throws IOException {
    TreeSet<String> points = rows(between(0, 24)).get("points.csv");
    assertThat(points.stream().filter(p -> p.startsWith("seat-db-"))).hasSize(8);
    assertThat(points.stream().filter(p -> p.startsWith("payroll-db-"))).hasSize(1);
    assertThat(points.stream().filter(p -> p.startsWith("museum-scans-")))
        .singleElement()
        .satisfies(p -> assertThat(p).contains(",incremental,museum-scans-1124-"));
    assertThat(points.stream().filter(p -> p.startsWith("timetable-"))).isEmpty();
    assertThat(points.stream().filter(p -> p.startsWith("harbour-sim"))).isEmpty();
    for (Delivery d : between(0, 24)) {
      assertThat(d.received()).isEqualTo(at(24));
    }
  }

  /** What it says lies on a store does lie there. */
  @Test
  void itsArtifactsAreThere() throws IOException {
    for (String copy : rows(between(0, 12)).get("copies.csv")) {
      String[] fields = copy.split(",", -1);
      if (!fields[7].isEmpty()) {
        assertThat(Files.size(folder.resolve(fields[1]).resolve(fields[7]))).isPositive();
      }
    }
  }

  /** In a month something fails, and not much. */
  @Test
  void nowAndThenARunFails() throws IOException {
    List<String> outcomes = new ArrayList<>();
    for (int day = 0; day < 6; day++) {
      rows(between(day * 24, day * 24 + 24)).get("jobs.csv").stream()
          .map(j -> j.split(",", -1)[7])
          .forEach(outcomes::add);
    }
    assertThat(outcomes).contains("failed", "succeeded");
    assertThat(outcomes.stream().filter(o -> !o.equals("succeeded")).count())
        .isLessThan(outcomes.size() / 20);
    assertThat(between(5, 5)).isEmpty();
  }
}
