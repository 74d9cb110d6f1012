package hardproof.server.demo;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.ChecksState;
import hardproof.core.forecast.Forecast;
import hardproof.core.programmes.Capacity;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import hardproof.server.HandClock;
import hardproof.server.installation.Installation;
import hardproof.server.programmes.CapacityStore;
import hardproof.server.programmes.Outlook;
import hardproof.server.programmes.Programme;
import hardproof.server.programmes.ProgrammeStore;
import hardproof.server.runs.Run;
import hardproof.server.storage.DataFolder;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * The demo lives for a month, as it does under a fast clock: its feeds bring points, copies, jobs and faults, its
 * programmes start, drills restore what was brought. What the forecast of the first day said is laid beside it. The
 * forecast knows of no fault to come: whatever came otherwise must have one to show for it. Invented data.
 *
 * <p>It takes minutes, and comes first so that others are through while it goes on.
 */
@Order(1)
class DemoMonthTest {
  private static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");
  private static final int DAYS = 30;
  private static final int STEP_HOURS = 3;

  @TempDir
  static Path folder;

  private Installation installation;
  private Capacity capacity;

  private Forecast foretold() {
    return installation
        .part(Outlook.class)
        .forecaster(
            installation.evaluations().now(),
            installation.part(ProgrammeStore.class).all())
        .forecast(capacity, Duration.ofDays(DAYS));
  }

  /** Hour by hour; feeds come every three. */
  private void live(HandClock clock, DemoFeed feed, Forecast foretold, Set<String> otherwise)
      throws IOException {
    for (int hour = 1; hour <= DAYS * 24; hour++) {
      clock.set(NOW.plus(Duration.ofHours(hour)));
      if (hour % STEP_HOURS == 0) {
        feed.bring(installation);
      }
      installation.programmes().startWhatIsDue(clock.instant());
      while (installation.queue().runOne()) {}
      installation.queue().cleanUp();
      if (hour % 24 == 0) {
        compare(clock.instant(), foretold, otherwise);
      }
    }
  }

  /** Nothing is proven that was not foretold to be; what is not and was foretold is noted. */
  private void compare(Instant at, Forecast foretold, Set<String> otherwise) {
    Evaluation evaluation = installation.evaluations().now().evaluation();
    Set<String> missing = foretold.gaps().stream()
        .filter(g -> !g.from().isAfter(at) && (g.until() == null || g.until().isAfter(at)))
        .map(Forecast.Gap::resource)
        .collect(Collectors.toSet());
    Set<String> sampled = byProgramme("weekly-sample");
    for (var workload : evaluation.workloads()) {
      for (ResourceResult member : workload.members()) {
        String key = member.resource().key();
        if (member.verdict() == Verdict.EXCLUDED) {
          continue;
        }
        if (proven(member) && !sampled.contains(member.protector().key())) {
          assertThat(missing).as(at + " " + key).doesNotContain(key);
        } else if (!proven(member) && !missing.contains(key)) {
          otherwise.add(member.protector().key());
        }
      }
    }
  }

  private static boolean proven(ResourceResult member) {
    return member.proof().demandReachedInPeriod()
        && (member.lastDrill() == null || !member.lastDrill().failed());
  }

  private Set<String> byProgramme(String programme) {
    return installation.runs().ended(5000).stream()
        .filter(r -> programme.equals(r.programme()))
        .map(Run::resource)
        .collect(Collectors.toSet());
  }

  private String night(Instant at) {
    return capacity.night(at).opens().toString();
  }

  private TreeSet<String> begun() {
    return installation.runs().ended(5000).stream()
        .filter(r -> r.programme() != null && !r.programme().equals("weekly-sample"))
        .filter(r -> r.startedAt() != null && r.startedAt().isAfter(NOW))
        .map(r -> night(r.startedAt()) + " " + r.programme() + " " + r.resource())
        .collect(Collectors.toCollection(TreeSet::new));
  }

  @Test
  void whatCameOtherwiseThanForetoldHasAFaultToShow() throws IOException {
    DataFolder data = new DataFolder(folder);
    DemoSetup.fillIfEmpty(data, NOW, s -> {});
    HandClock clock = new HandClock(NOW);
    DemoFeed feed = DemoFeed.of(data).orElseThrow();
    Set<String> otherwise = new HashSet<>();
    try (Installation open = Installation.open(data, clock, List.of(data.demo()))) {
      installation = open;
      capacity = open.part(CapacityStore.class).at(NOW).capacity();
      Forecast foretold = foretold();
      TreeSet<String> starts = foretold.starts().stream()
          .map(s -> night(s.at()) + " " + s.programme() + " " + s.resource())
          .collect(Collectors.toCollection(TreeSet::new));
      live(clock, feed, foretold, otherwise);
      assertThat(begun()).containsExactlyElementsOf(starts);
      assertThat(starts).hasSizeGreaterThan(150);
      Set<String> faulty = open.runs().ended(5000).stream()
          .filter(r -> r.startedAt() != null
              && r.startedAt().isAfter(NOW)
              && r.checks() != ChecksState.PASSED)
          .map(Run::resource)
          .collect(Collectors.toSet());
      assertThat(otherwise).isNotEmpty().isSubsetOf(faulty);
      assertThat(open.part(ProgrammeStore.class).all())
          .extracting(Programme::key)
          .contains("weekly-sample");
    }
  }
}
