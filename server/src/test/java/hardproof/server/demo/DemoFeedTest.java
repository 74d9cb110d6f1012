package hardproof.server.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.wording.WrongValue;
import hardproof.server.HandClock;
import hardproof.server.installation.Installation;
import hardproof.server.storage.DataFolder;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** The demo's feeds go on, and its clock goes as fast as it is told to. */
class DemoFeedTest {
  private static final Instant MADE = Instant.parse("2026-11-24T10:00:00Z");

  @TempDir
  Path folder;

  private long points(Installation installation) {
    return installation
        .database()
        .reads()
        .sql("SELECT count(*) FROM recovery_point")
        .query(Long.class)
        .single();
  }

  /** A quarter of an hour at the least; what was missed comes a day at a time; nothing comes twice. */
  @Test
  void itBringsWhatBecameKnownSinceTheLastTime() throws IOException {
    DataFolder data = new DataFolder(folder);
    assertThat(DemoFeed.of(data)).isEmpty();
    HandClock clock = new HandClock(MADE);
    try (Installation installation = Installation.open(data, clock)) {
      DemoFeed.made(data, MADE, 5);
      DemoFeed feed = DemoFeed.of(data).orElseThrow();
      clock.set(MADE.plus(DemoFeed.EVERY).minusMillis(1));
      assertThat(feed.bring(installation)).isFalse();
      clock.set(MADE.plus(Duration.ofHours(30)));
      assertThat(feed.bring(installation)).isTrue();
      assertThat(feed.lived()).isEqualTo(MADE.plus(Duration.ofDays(1)));
      long day = points(installation);
      assertThat(day).isGreaterThan(100);
      DemoFeed again = DemoFeed.of(data).orElseThrow();
      assertThat(again.lived()).isEqualTo(feed.lived());
      assertThat(again.bring(installation)).isTrue();
      assertThat(again.bring(installation)).isFalse();
      assertThat(points(installation)).isGreaterThan(day);
      // A crash between taking and writing that down: what is known already comes once more.
      long known = points(installation);
      DemoFeed.made(data, MADE, 5);
      assertThat(DemoFeed.of(data).orElseThrow().bring(installation)).isTrue();
      assertThat(points(installation)).isEqualTo(known);
    }
  }

  @ParameterizedTest
  @CsvSource({"1h=2s,1800", "1d = 1m,1440", "5s=5s,1"})
  void aPaceIsHowMuchPassesInHowMuch(String text, double pace) {
    assertThat(DemoClock.pace(text)).isEqualTo(pace);
  }

  @ParameterizedTest
  @ValueSource(strings = {"fast", "1h", "1h=2s=3s", "1s=2s", "365d=1s", "1h=0s", "=", "x=1s"})
  void whatIsNoPaceIsRefused(String text) {
    assertThatThrownBy(() -> DemoClock.pace(text))
        .isInstanceOf(WrongValue.class)
        .hasMessageStartingWith("'" + text + "' ")
        .hasMessageEndingWith("write it as 1h=2s: an hour passes in two seconds");
  }

  /** It begins where the demo was left where that is later than now, and never goes back. */
  @Test
  void theClockBeginsWhereTheDemoWasLeft() throws IOException {
    DataFolder data = new DataFolder(folder);
    Instant ahead = Instant.parse("2120-01-01T00:00:00Z");
    DemoFeed.made(data, ahead, 5);
    DemoClock clock = DemoFeed.of(data).orElseThrow().clock(1800);
    Instant first = clock.instant();
    assertThat(first).isAfterOrEqualTo(ahead).isBefore(ahead.plus(Duration.ofDays(30)));
    assertThat(clock.instant()).isAfterOrEqualTo(first);
    assertThat(clock.pace()).isEqualTo(1800);
    DemoFeed.made(data, MADE.minus(Duration.ofDays(9000)), 5);
    assertThat(Duration.between(DemoFeed.of(data).orElseThrow().clock(1).instant(), Instant.now())
            .abs())
        .isLessThan(Duration.ofMinutes(1));
  }
}
