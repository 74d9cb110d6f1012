package hardproof.server.programmes;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.estate.Selector;
import hardproof.core.forecast.Forecast;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.Limits;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.Showing;
import hardproof.core.proof.Verdict;
import hardproof.core.schedule.HoursOfDay;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import hardproof.server.runs.Run;
import java.io.IOException;
import java.nio.file.Files;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * A month is lived through, hour by hour, by the code that does it for real: feeds come daily, programmes start, drills
 * restore real bytes. What the forecast of the first day said of the starts, the lapses and what stays unproven is laid
 * beside what happened. Invented data.
 */
class LivingMonthTest extends WithEstate {
  private static final int DAYS = 30;
  private static final int SHARES = 9;
  private static final Capacity NIGHTS = Capacity.usual().with(HoursOfDay.parse("22:00-04:00"));

  /** Tier 1: proofs last 30 days; those of other tiers outlive the month. Each day a new point of each. */
  private void shares(String tier, int day) throws IOException {
    StringBuilder resources = new StringBuilder("key,name,kind,workload,site\n");
    StringBuilder points =
        new StringBuilder("key,resource,form,data_time,available,outcome,consistency,size\n");
    StringBuilder copies =
        new StringBuilder("point,store,finished,state,format,place,sha256,manifest\n");
    Instant data = Estate.NOW.plus(Duration.ofDays(day)).minus(Duration.ofHours(2));
    for (int i = 0; i < SHARES; i++) {
      String key = "m" + i;
      resources.append(key + "," + key.toUpperCase() + ",file-share,month,A\n");
      points.append(key + "-" + day + "," + key + ",full," + data + "," + data.plusSeconds(60)
          + ",complete,application," + size() + "\n");
      copies.append(key + "-" + day + ",near," + data.plusSeconds(90) + "," + artifact() + "\n");
    }
    if (day == 0) {
      estate.take("workloads.csv", "key,name,owner,tier\nmonth,Month,Somebody," + tier + "\n");
      estate.take("resources.csv", resources.toString());
    }
    estate.take("points.csv", points.toString());
    estate.take("copies.csv", copies.toString());
  }

  private void programme(String key, String only, String rule, long nightBytes) {
    estate
        .installation
        .part(ProgrammeStore.class)
        .add(new Programme(
            key,
            key,
            Selector.allOf(Selector.Condition.is("key", only.split(","))),
            null,
            new Programme.When(rule, "UTC", Estate.NOW, Duration.ofHours(4), null),
            new Programme.How(
                Showing.DEMANDED, PointChoice.NEWEST, CopyChoice.NOT_LAST, null, Duration.ZERO),
            new Limits(null, nightBytes, null, null),
            Programme.OnFailure.USUAL,
            Programme.Tell.NOTHING,
            new Programme.Version(Estate.NOW, "tester", Estate.NOW)));
  }

  /** As the estate says of the full of its share. */
  private String artifact() {
    var facts = estate.installation.evaluations().now().estate();
    var copy = facts.copiesOf(facts.point("share", "share-1")).get(0);
    return "present,tar.gz,share-1.tar.gz," + copy.sha256() + "," + copy.manifest();
  }

  private long size() throws IOException {
    return Files.size(estate.store().resolve("share-1.tar.gz"));
  }

  private Forecast forecast() {
    Outlook programmes = estate.installation.part(Outlook.class);
    return programmes
        .forecaster(
            estate.installation.evaluations().now(),
            estate.installation.part(ProgrammeStore.class).all())
        .forecast(NIGHTS, Duration.ofDays(DAYS));
  }

  private static Instant night(Instant at) {
    return NIGHTS.night(at).opens();
  }

  private TreeSet<String> proven() {
    return estate.installation.evaluations().now().evaluation().workload("month").members().stream()
        .filter(m -> m.proof().demandReachedInPeriod() && m.verdict() != Verdict.DISPROVEN)
        .map(m -> m.resource().key())
        .collect(Collectors.toCollection(TreeSet::new));
  }

  private static TreeSet<String> provenBy(Forecast forecast, Instant at) {
    TreeSet<String> all = new TreeSet<>();
    for (int i = 0; i < SHARES; i++) {
      all.add("m" + i);
    }
    forecast.gaps().stream()
        .filter(g -> g.resource().startsWith("m"))
        .filter(g -> !g.from().isAfter(at) && (g.until() == null || g.until().isAfter(at)))
        .forEach(g -> all.remove(g.resource()));
    return all;
  }

  /**
   * Three drills a night, by the bytes, for six shares; two by a weekly rule; one that nobody drills. Also where no feed
   * comes for all of the month: what there is goes on being drilled, and that nobody tells of it is said.
   */
  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void theMonthIsAsTheFirstDayForetold(boolean told) throws IOException {
    CapacityStore capacities = estate.installation.part(CapacityStore.class);
    capacities.say(NIGHTS, capacities.at(Estate.NOW).since(), "tester", Estate.NOW);
    shares("1", 0);
    programme("needed", "m0,m1,m2,m3,m4,m5", null, 3 * size());
    programme(
        "weekly", "m6,m7", "FREQ=WEEKLY;BYDAY=WE;BYHOUR=23;BYMINUTE=0;BYSECOND=0", 9 * size());
    Forecast foretold = forecast();
    List<String> wrong = new ArrayList<>();
    for (int hour = 1; hour < DAYS * 24; hour++) {
      Instant now = Estate.NOW.plus(Duration.ofHours(hour));
      estate.clock.set(now);
      if (told && hour % 24 == 0) {
        shares("1", hour / 24);
      }
      estate.installation.programmes().startWhatIsDue(now);
      while (estate.installation.queue().runOne()) {}
      // Between the nights: a drill takes no time by a clock that stands, and an hour in none of
      // them.
      if (hour % 24 == 2 && !proven().equals(provenBy(foretold, now))) {
        wrong.add(now + ": " + proven() + ", foretold " + provenBy(foretold, now));
      }
    }
    assertThat(wrong).isEmpty();
    assertThat(begun()).isEqualTo(foretoldStarts(foretold));
    assertThat(foretold.starts()).hasSizeGreaterThan(12);
    assertThat(foretold.neverRenewed())
        .extracting(Forecast.Gap::resource)
        .contains("m8")
        .doesNotContain("m0", "m6");
    assertThat(estate.installation.runs().ended(500))
        .filteredOn(r -> r.resource().equals("m0"))
        .extracting(Run::point)
        .containsExactly(told ? "m0-24" : "m0-0", "m0-0");
    // Of a month in which nobody told anything, nothing can be said: it is neither proven nor lost.
    assertThat(told || verdict() == Verdict.UNKNOWN).isTrue();
  }

  private Verdict verdict() {
    return estate
        .installation
        .evaluations()
        .now()
        .evaluation()
        .workload("month")
        .verdict();
  }

  private List<String> begun() {
    return estate.installation.runs().ended(500).stream()
        .filter(r -> r.resource().startsWith("m"))
        .map(LivingMonthTest::begun)
        .sorted()
        .toList();
  }

  private static String begun(Run run) {
    return night(run.startedAt()) + " " + run.programme() + " " + run.resource();
  }

  private static List<String> foretoldStarts(Forecast foretold) {
    return foretold.starts().stream()
        .filter(s -> s.resource().startsWith("m"))
        .map(s -> night(s.at()) + " " + s.programme() + " " + s.resource())
        .sorted()
        .toList();
  }
}
