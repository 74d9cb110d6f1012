package hardproof.core.discovery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.discovery.Discovery.Discovered;
import hardproof.core.discovery.Discovery.Series;
import hardproof.core.discovery.Discovery.Thing;
import hardproof.core.estate.Kind;
import hardproof.core.points.Form;
import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Names as scripts of many kinds write them; common practice, no source. */
class DiscoveryTest {
  private static final Set<String> FORMATS =
      Set.of("tar", "tar.gz", "tgz", "sql.gz", "sqlite", "zip", "qcow2", "pgdump", "ldif.gz");

  private static final Instant MODIFIED = Instant.parse("2026-11-20T03:30:00Z");

  private static Discovered of(String... places) {
    return of(List.of(places));
  }

  private static Discovered of(List<String> places) {
    return Discovery.of(things(places.toArray(String[]::new)), FORMATS, ZoneOffset.UTC);
  }

  @ParameterizedTest
  @CsvSource({
    "web-20261101-0310.tar.gz, db-20261101-0310.tar.gz, '{resource}-{yyyyMMdd-HHmm}.tar.gz', 'db,web'",
    "web/2026-11-01.tar.gz, db/2026-11-01.tar.gz, '{resource}/{yyyy-MM-dd}.tar.gz', 'db,web'",
    "2026-11-01/web.sql.gz, 2026-11-01/db.sql.gz, '{yyyy-MM-dd}/{resource}.sql.gz', 'db,web'",
    "daily/h1/db_full-2026.11.01.tgz, daily/h2/db_inc-2026.11.02.tgz, 'daily/{resource}/db_{form}-{yyyy.MM.dd}.tgz', 'h1,h2'",
    "dump_web_1767225600.zip, dump_db_1767225600.zip, '{resource}_{epoch}.zip', 'dump_db,dump_web'",
    "m1 2026-11-01T03:10:05Z.qcow2, m2 2026-11-01T03:10:05Z.qcow2, '{resource} {yyyy-MM-ddTHH:mm:ssZ}.qcow2', 'm1,m2'",
    "a/web-20261101.tar.gz, b/db-20261101.tar.gz, '{resource}/{resource}-{yyyyMMdd}.tar.gz', 'a/web,b/db'"
  })
  void namesAreReadAsPatterns(String one, String other, String pattern, String resources) {
    Discovered found = of(one, other);
    assertThat(found.series()).hasSize(1);
    Series series = found.series().get(0);
    assertThat(series.pattern()).isEqualTo(pattern);
    assertThat(String.join(",", series.resources())).isEqualTo(resources);
    assertThat(found.unfit()).isZero();
  }

  @Test
  void aSeriesOfOneResourceIsCalledAsItsLastName() {
    Series series = of("backups/payroll-20261101.sql.gz", "backups/payroll-20261102.sql.gz")
        .series()
        .get(0);
    assertThat(series.pattern()).isEqualTo("backups/{resource}-{yyyyMMdd}.sql.gz");
    assertThat(series.resources()).containsExactly("payroll");
    assertThat(series.kind()).isEqualTo(Kind.DATABASE);
  }

  @Test
  void howOftenAndSinceWhenIsCounted() {
    List<String> places = new ArrayList<>();
    for (int day = 1; day <= 28; day++) {
      for (String name : List.of("web", "db", "mail")) {
        places.add("%s-202611%02d-0300.tar.gz".formatted(name, day));
      }
    }
    Series series = of(places).series().get(0);
    assertThat(series.files()).isEqualTo(84);
    assertThat(series.resources()).hasSize(3);
    assertThat(series.every()).isEqualTo(Duration.ofDays(1));
    assertThat(series.first()).isEqualTo("2026-11-01T03:00:00Z");
    assertThat(series.last()).isEqualTo("2026-11-28T03:00:00Z");
    assertThat(series.timeOfName()).isTrue();
    assertThat(series.sample()).hasSize(3);
  }

  @Test
  void whatDiffersInEachFileIsNobodysName() {
    List<String> places = IntStream.range(0, 20)
        .mapToObj(i -> "job-%04x/web%d-202611%02d.tar".formatted(i * 7919, i % 2, i + 1))
        .toList();
    Series series = of(places).series().get(0);
    assertThat(series.pattern()).isEqualTo("{any}/{resource}-{yyyyMMdd}.tar");
    assertThat(series.resources()).containsExactly("web0", "web1");
  }

  @Test
  void checksumsAreNoBackupsAndWhatFitsNothingIsShown() {
    Discovered found = of(
        "web-20261101.tar.gz",
        "web-20261101.tar.gz.sha256",
        "SHA256SUMS",
        "README",
        "20261101.tar.gz");
    assertThat(found.files()).isEqualTo(3);
    assertThat(found.lists()).isEqualTo(2);
    assertThat(found.rest()).containsExactly("20261101.tar.gz", "README");
    assertThat(of().series()).isEmpty();
  }

  private static Discovered withFolders(String... places) {
    return Discovery.withFolders(things(places), FORMATS, ZoneOffset.UTC);
  }

  /** As tools leave them that copy files one by one; common practice, no source. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "web/2026-11-01/etc/a web/2026-11-02/etc/a db/2026-11-01/etc/x.zip db/2026-11-01/etc/y|{resource}/{yyyy-MM-dd}/|db,web|3",
        "s/2026-11-01/web/a/b s/2026-11-01/db/a/b s/2026-11-02/web/a/b|s/{yyyy-MM-dd}/{resource}/|db,web|3",
        "2026-11-01_0310/web/a/b 2026-11-02_0310/web/a/c|{yyyy-MM-dd_HHmm}/{resource}/|web|2",
        "s/m1/2026-11-01/etc/a s/m1/2026-11-01/home/b s/m1/2026-11-02/etc/a|s/{resource}/{yyyy-MM-dd}/|m1|2",
        "web-2026-11-01/a/b web-2026-11-02/a/b|{resource}-{yyyy-MM-dd}/|web|2",
        "db/20261101/toc.dat db/20261101/1.sql.gz db/20261102/toc.dat|{resource}/{yyyyMMdd}/|db|2",
        "web/2026-11-01/index.html web/2026-11-01/b.css web/2026-11-02/index.html web/2026-11-02/c|{resource}/{yyyy-MM-dd}/|web|2"
      })
  void foldersOfATimeAreBackupsAsAWhole(
      String places, String pattern, String resources, int folders) {
    Discovered found = withFolders(places.split(" "));
    assertThat(found.series()).singleElement().satisfies(s -> {
      assertThat(s.pattern()).isEqualTo(pattern);
      assertThat(String.join(",", s.resources())).isEqualTo(resources);
      assertThat(s.files()).isEqualTo(folders);
      assertThat(s.ofFolders()).isTrue();
      assertThat(s.format()).isEqualTo("folder");
    });
    assertThat(found.unfit()).isZero();
  }

  /** They only keep together what was made in one night. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "2026-11-01/web.tar.gz 2026-11-01/db.sql.gz 2026-11-02/web.tar.gz",
        "d/2026-11-01/web.tar.gz d/2026-11-01/web.tar.gz.sha256 d/2026-11-01/log",
        "2026-11-01/web/full.tar.gz 2026-11-01/db/full.tar.gz"
      })
  void foldersThatKeepArchivesTogetherAreNone(String places) {
    assertThat(withFolders(places.split(" ")).series())
        .noneMatch(Series::ofFolders)
        .isNotEmpty();
  }

  @Test
  void aFolderIsAsLargeAsAllThatLiesInIt() {
    List<Thing> things = List.of(
        new Thing("web/2026-11-01/etc/a", 5, MODIFIED),
        new Thing("web/2026-11-01/etc/sums.md5", 7, MODIFIED.plusSeconds(9)));
    PlacePattern pattern = PlacePattern.of("{resource}/{yyyy-MM-dd}/");
    assertThat(pattern.of("web/2026-11-01/etc/a", ZoneOffset.UTC).artifact())
        .isEqualTo("web/2026-11-01");
    assertThat(pattern.of("web/2026-11-01", ZoneOffset.UTC)).isNull();
    assertThat(pattern.of("x/web/2026-11-01/etc", ZoneOffset.UTC)).isNull();
    Discovered found = Discovery.by(List.of(pattern), things, FORMATS, ZoneOffset.UTC);
    assertThat(found.series()).singleElement().satisfies(s -> {
      assertThat(s.files()).isEqualTo(1);
      assertThat(s.sample()).containsExactly("web/2026-11-01/");
    });
    assertThat(found.rest()).isEmpty();
    assertThat(things.get(0).with(things.get(1)))
        .isEqualTo(new Thing("web/2026-11-01/etc/a", 12, MODIFIED.plusSeconds(9)));
  }

  @Test
  void aPersonMaySayItOtherwise() {
    List<Thing> things = things("nas_web-20261101.tar", "nas_db-20261101.tar", "other.iso");
    Discovered found = Discovery.by(
        List.of(
            PlacePattern.of("nas_{resource}-{yyyyMMdd}.tar"), PlacePattern.of("{resource}.zip")),
        things,
        FORMATS,
        ZoneOffset.UTC);
    assertThat(found.series()).hasSize(1);
    assertThat(found.series().get(0).resources()).containsExactly("db", "web");
    assertThat(found.rest()).containsExactly("other.iso");
  }

  private static List<Thing> things(String... places) {
    return List.of(places).stream().map(p -> new Thing(p, 10, MODIFIED)).toList();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "web-20261301.tar.gz",
        "web-20261132.tar.gz",
        "web-120261101.tar.gz",
        "web-18991101.tar.gz",
        "order-4711.tar.gz"
      })
  void otherNumbersAreNoTimes(String place) {
    assertThat(of(place).series().get(0).timeOfName()).isFalse();
  }

  @Test
  void aDayThatThereIsNotFitsNothing() {
    PlacePattern pattern = PlacePattern.of("{resource}-{yyyyMMdd}.tar");
    assertThat(pattern.of("web-20260230.tar", ZoneOffset.UTC)).isNull();
    assertThat(pattern.of("web-20240229.tar", ZoneOffset.UTC).time())
        .isEqualTo("2024-02-29T00:00:00Z");
  }

  @Test
  void aTimeWithoutZoneIsOfTheOneThatIsSaid() {
    PlacePattern local = PlacePattern.of("{resource}-{yyyyMMdd-HHmm}.tar");
    ZoneId oslo = ZoneId.of("Europe/Oslo");
    assertThat(local.of("w-20260701-0200.tar", oslo).time()).isEqualTo("2026-07-01T00:00:00Z");
    assertThat(local.of("w-20261201-0200.tar", oslo).time()).isEqualTo("2026-12-01T01:00:00Z");
    // In the hour that there is not, clocks show one later; in the one that is there twice, the
    // first counts.
    assertThat(local.of("w-20260329-0230.tar", oslo).time()).isEqualTo("2026-03-29T01:30:00Z");
    assertThat(local.of("w-20261025-0230.tar", oslo).time()).isEqualTo("2026-10-25T00:30:00Z");
    PlacePattern utc = PlacePattern.of("{resource}-{yyyyMMddTHHmmssZ}.tar");
    assertThat(utc.of("w-20260701T020000Z.tar", oslo).time()).isEqualTo("2026-07-01T02:00:00Z");
  }

  @ParameterizedTest
  @CsvSource({
    "full, FULL",
    "INC, INCREMENTAL",
    "incr, INCREMENTAL",
    "Diff, DIFFERENTIAL",
    "log, LOG"
  })
  void formsAreReadByName(String word, Form form) {
    PlacePattern pattern = PlacePattern.of("{resource}.{form}.tar");
    assertThat(pattern.of("web." + word + ".tar", ZoneOffset.UTC).form()).isEqualTo(form);
  }

  @ParameterizedTest
  @CsvSource({
    "'',has 1 to 500",
    "web.tar,whose backups",
    "'{resource}-{yyyyMMdd',does not close",
    "'{resource}-{HHmm}.tar',is no place for a name or a time",
    "'{resource}-{yyyyMMdd}-{yyyyMMdd}.tar',says the time twice",
    "'{resource}-{what}.tar',is no place for"
  })
  void whatIsNoPatternIsRefused(String text, String why) {
    assertThatThrownBy(() -> PlacePattern.of(text))
        .isInstanceOf(WrongValue.class)
        .hasMessageContaining(why);
  }

  /** Whatever a name holds, what is made of it fits it again. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "we{ird}-20261101.tar.gz",
        "ä ü/b+c&%25<>-20261101.tar.gz",
        "\\Q.*\\E-20261101.tar.gz",
        "a//b-20261101.tar.gz",
        "x.tar.gz"
      })
  void namesMayHoldEveryCharacter(String place) {
    Series series = of(place).series().get(0);
    assertThat(PlacePattern.of(series.pattern()).of(place, ZoneOffset.UTC)).isNotNull();
    assertThat(series.files()).isEqualTo(1);
  }

  @Test
  void aPatternThatFitsEverythingEndsSoon() {
    assertThatThrownBy(() -> PlacePattern.of("{any}{any}{any}{any}{any}{resource}.tar"))
        .hasMessageContaining("more than 5 places");
    PlacePattern greedy = PlacePattern.of("{any}{any}{any}{any}{resource}-{yyyyMMdd}.tar");
    String long1 = "a".repeat(60) + "-2026110x.tar";
    assertThat(greedy.of(long1, ZoneOffset.UTC)).isNull();
  }
}
