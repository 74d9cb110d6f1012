package hardproof.core.recipes;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.discovery.PlacePattern;
import hardproof.core.discovery.PlacePattern.Part;
import hardproof.core.recipes.HeaderGuess.Line;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is read out of the first rows of a report; the ways in which reports are written are common practice, no source. */
class GuessesTest {
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
  private static final Instant NOW = Instant.parse("2026-11-30T12:00:00Z");

  private static List<Line> lines(String... rows) {
    List<Line> lines = new ArrayList<>();
    for (int i = 0; i < rows.length; i++) {
      if (!rows[i].isEmpty()) {
        lines.add(new Line(i + 1, Arrays.asList(rows[i].split(",", -1))));
      }
    }
    return lines;
  }

  @Test
  void namesStandBelowTitlesAndAboveRows() {
    assertThat(
            HeaderGuess.header(lines("Client,Start,Status", "a,2026-11-01,ok", "b,2026-11-02,ok")))
        .isEqualTo(1);
    assertThat(HeaderGuess.header(lines(
            "A report",
            "",
            "of the night,",
            "Client,Start,Status",
            "a,2026-11-01,ok",
            "b,2026-11-02,ok")))
        .isEqualTo(4);
    assertThat(HeaderGuess.header(lines("a,2026-11-01,ok", "b,2026-11-02,ok")))
        .as("a row with a time is no row of names")
        .isZero();
    assertThat(HeaderGuess.header(lines("x/y/z.tar.gz", "x/y/a.tar.gz"))).isZero();
    assertThat(HeaderGuess.header(lines("path", "x/y/a.tar.gz", "x/y/b.tar.gz")))
        .isEqualTo(1);
    assertThat(HeaderGuess.header(lines("ok,full,disk", "ok,full,disk", "ok,full,tape")))
        .as("what stands below as well is no name")
        .isZero();
    assertThat(HeaderGuess.header(List.of())).isZero();
  }

  @Test
  void totalsAndCountsAtTheEndAreNoRows() {
    List<Line> first = lines("Client,Start,Size,Status", "a,2026-11-01,5,ok", "b,2026-11-02,7,ok");
    assertThat(HeaderGuess.footers(first, lines("b,2026-11-02,7,ok"))).isZero();
    assertThat(HeaderGuess.footers(first, lines("b,2026-11-02,7,ok", "Total,,12,")))
        .isEqualTo(1);
    assertThat(HeaderGuess.footers(first, lines("b,2026-11-02,7,ok", "Total,x,12,y", "(2 rows)")))
        .isEqualTo(2);
    assertThat(HeaderGuess.footers(first, lines("b,2026-11-02,,ok")))
        .as("a row that lacks one field is one")
        .isZero();
    assertThat(HeaderGuess.footers(lines("a", "b", "c"), lines("b", "c"))).isZero();
    assertThat(HeaderGuess.footers(lines("a", "b", "c"), lines("c", "3 files"))).isEqualTo(1);
    assertThat(HeaderGuess.footers(first, lines("a", "b", "c", "d", "e", "f")))
        .as("so many are no footers")
        .isZero();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "2026-11-24T03:10:00Z | 2026-11-24T03:10:00Z",
        "2026-11-24T03:10:00+02:00 | 2026-11-24T01:10:00Z",
        "2026-11-24 03:10:00 | 2026-11-24T02:10:00Z",
        "2026-11-24 03:10 | 2026-11-24T02:10:00Z",
        "2026-11-24 03:10:00.5000000000 | 2026-11-24T02:10:00.500Z",
        "2026-11-24 03:10:00.123456+00 | 2026-11-24T03:10:00.123456Z",
        "24.11.2026 03:10 | 2026-11-24T02:10:00Z",
        "24.11.2026, 3:10:05 | 2026-11-24T02:10:05Z",
        "24/11/2026 03:10 | 2026-11-24T02:10:00Z",
        "11/24/2026 3:10:00 PM | 2026-11-24T14:10:00Z",
        "11/24/2026 03:10 | 2026-11-24T02:10:00Z",
        "24-Nov-2026 03:10:00 | 2026-11-24T02:10:00Z",
        "24 Nov 2026 03:10 | 2026-11-24T02:10:00Z",
        "Nov 24, 2026 3:10:00 AM | 2026-11-24T02:10:00Z",
        "Tue Nov 24 03:10:00 2026 | 2026-11-24T02:10:00Z",
        "Tue, 24 Nov 2026 03:10:00 +0000 | 2026-11-24T03:10:00Z",
        "2026/11/24 03:10:00 | 2026-11-24T02:10:00Z",
        "20261124T031000Z | 2026-11-24T03:10:00Z",
        "20261124031000 | 2026-11-24T02:10:00Z",
        "2026-11-24 | 2026-11-23T23:00:00Z",
        "24.11.2026 | 2026-11-23T23:00:00Z",
        "1793000000 | 2026-10-26T07:33:20Z",
        "1793000000.25 | 2026-10-26T07:33:20.250Z",
        "1793000000123 | 2026-10-26T07:33:20.123Z"
      })
  void timesAreReadAsTheyAreUsuallyWritten(String written, Instant meant) {
    TimeGuess.Guessed guessed = TimeGuess.of(List.of(written), OSLO, NOW);
    assertThat(guessed).isNotNull();
    assertThat(guessed.reading().instant(written)).isEqualTo(meant);
  }

  @Test
  void whatIsNoTimeIsNone() {
    for (String text : List.of("", "yesterday", "12", "1500000", "31.13.2026 03:10", "a/b", "0")) {
      assertThat(TimeGuess.of(List.of(text), OSLO, NOW)).as(text).isNull();
    }
    assertThat(TimeGuess.of(List.of(), OSLO, NOW)).isNull();
    assertThat(TimeGuess.of(List.of("2026-11-24 03:10", "24.11.2026 03:10"), OSLO, NOW))
        .as("written in two ways")
        .isNull();
  }

  /** 05/11 to 08/11: four nights in November, or the fifth to eighth month. */
  @Test
  void ofDaysAndMonthsThoseAreTakenThatLieTogetherAndNotAhead() {
    List<String> nights = List.of("05/11/2026 01:00", "06/11/2026 01:00", "08/11/2026 01:00");
    TimeGuess.Guessed guessed = TimeGuess.of(nights, OSLO, NOW);
    assertThat(guessed.reading().pattern()).startsWith("d/M/yyyy");
    assertThat(guessed.other().pattern()).startsWith("M/d/yyyy");
    assertThat(TimeGuess.of(List.of("10/12/2026 01:00"), OSLO, NOW).reading().pattern())
        .as("the tenth of December is to come yet")
        .startsWith("M/d/yyyy");
    assertThat(TimeGuess.of(List.of("11/24/2026 01:00"), OSLO, NOW).other()).isNull();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{resource}/{yyyyMMdd-HHmm}-{form}.tar.gz | pay/20261124-0310-full.tar.gz | pay | full | 20261124-0310",
        "a(b)[c]/{resource}_{resource}.{yyyy-MM-dd}.x | a(b)[c]/one_two.2026-11-24.x | one,two | | 2026-11-24",
        "{any}/{resource}-{epoch}.img | z/vm 1-1793000000.img | vm 1 | | 1793000000"
      })
  void aPatternOfPlacesIsExpressionsForItsParts(
      String pattern, String place, String resources, String form, String time) {
    PlacePattern read = PlacePattern.of(pattern);
    assertThat(parts(read, Part.RESOURCE, place)).isEqualTo(List.of(resources.split(",")));
    assertThat(parts(read, Part.FORM, place)).isEqualTo(form == null ? List.of() : List.of(form));
    assertThat(parts(read, Part.TIME, place)).containsExactly(time);
    if (!"epoch".equals(read.timePattern())) {
      assertThat(new TimeReading("UTC", read.timePattern()).instant(time))
          .isEqualTo(read.of(place, ZoneId.of("UTC")).time());
    }
  }

  private static List<String> parts(PlacePattern pattern, Part part, String place) {
    List<String> parts = new ArrayList<>();
    for (String expression : pattern.expressions(part)) {
      Matcher m = Pattern.compile(expression).matcher(place);
      assertThat(m.find()).as(expression).isTrue();
      assertThat(m.groupCount()).isEqualTo(1);
      parts.add(m.group(1));
    }
    return parts;
  }

  @Test
  void namesInExpressionsAreWords() {
    assertThat(Expressions.name("Start Time")).isEqualTo("start_time");
    assertThat(Expressions.name("Size (GB)")).isEqualTo("size__gb_");
    assertThat(Expressions.name("2nd")).isEqualTo("_2nd");
    assertThat(Expressions.name("if")).isEqualTo("if_");
    assertThat(Expressions.name("Größe")).isEqualTo("gr__e");
    assertThat(Expressions.name("")).isEqualTo("_");
  }
}
