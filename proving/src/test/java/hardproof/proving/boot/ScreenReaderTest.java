package hardproof.proving.boot;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.proving.boot.ScreenReader.Accepted;
import hardproof.proving.boot.ScreenReader.Reading;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is concluded from screens; their words are invented or those that systems commonly print. */
class ScreenReaderTest {
  private static Screen text(long at, String... lines) {
    return new Screen(at, List.of(lines), null);
  }

  private static Watched watched(Ending ending, long ran, Screen... screens) {
    return new Watched("an engine", List.of(screens), "", ending, ran, "it waits");
  }

  private static Reading read(Watched watched, Check... checks) throws IOException {
    return ScreenReader.read(watched, Expectation.of(List.of(checks)), List.of());
  }

  @ParameterizedTest
  @CsvSource({
    "gate login:, LOGIN_REACHED",
    "Username:, LOGIN_REACHED",
    "No bootable device., NOT_BOOTABLE",
    "Missing operating system, NOT_BOOTABLE",
    "Kernel panic - not syncing: VFS, FATAL_STOP",
    "*** STOP CODE 7, FATAL_STOP",
    "(initramfs), REPAIR_PROMPT",
    "You are in emergency mode., REPAIR_PROMPT",
    "Give root password for maintenance, REPAIR_PROMPT",
    "HARBOUR LOGGER v3  READY, UNKNOWN",
    "Booting from Hard Disk..., STALLED"
  })
  void aScreenIsOfItsClass(String line, ScreenClass expected) throws IOException {
    Reading reading = read(watched(Ending.WAITING, 9000, text(1000, line)));
    assertThat(reading.screenClass()).as(reading.sentence()).isEqualTo(expected);
  }

  /** A login that is followed by a stop is no login, and neither is one that was there for a moment. */
  @Test
  void theExpectedMustStayThreeSeconds() throws IOException {
    assertThat(read(watched(Ending.WAITING, 4000, text(1000, "gate login:"))).screenClass())
        .isEqualTo(ScreenClass.LOGIN_REACHED);
    Reading brief = read(watched(Ending.WAITING, 3999, text(1000, "gate login:")));
    assertThat(brief.screenClass()).isEqualTo(ScreenClass.STALLED);
    assertThat(brief.sentence()).contains("for 2999 ms only; 3000 are asked");
    assertThat(read(watched(
                Ending.WAITING, 9000, text(1000, "gate login:"), text(5000, "Kernel panic")))
            .screenClass())
        .isEqualTo(ScreenClass.FATAL_STOP);
    assertThat(read(watched(
                Ending.WAITING,
                9000,
                text(1000, "gate login:"),
                text(2000, "checking"),
                text(7000, "gate login:")))
            .screenClass())
        .as("it counts from when it came last")
        .isEqualTo(ScreenClass.STALLED);
  }

  /** Bad words win wherever they were: on an earlier screen, or on the serial line. */
  @Test
  void badWordsAlwaysWin() throws IOException {
    assertThat(read(watched(
                Ending.WAITING, 9000, text(500, "panic: no root"), text(1000, "gate login:")))
            .screenClass())
        .isEqualTo(ScreenClass.FATAL_STOP);
    Watched serial = new Watched(
        "e", List.of(text(1000, "gate login:")), "Kernel panic", Ending.WAITING, 9000, "");
    assertThat(read(serial).sentence()).endsWith("on the serial line");
  }

  @Test
  void aPersonMayNameWhatIsHarmlessExpectedOrNever() throws IOException {
    Watched watched = watched(Ending.WAITING, 9000, text(1000, "Run fsck manually", "Seats 12"));
    assertThat(read(watched).screenClass()).isEqualTo(ScreenClass.REPAIR_PROMPT);
    Check benign = Check.of(CheckType.BENIGN_MESSAGE, "run fsck manually");
    Check seats = Check.of(CheckType.SCREEN_SHOWS, "Seats [0-9]+");
    assertThat(read(watched, benign).screenClass()).isEqualTo(ScreenClass.UNKNOWN);
    assertThat(read(watched, benign, seats).screenClass()).isEqualTo(ScreenClass.LOGIN_REACHED);
    Reading never =
        read(watched, benign, seats, Check.of(CheckType.SCREEN_NEVER_SHOWS, "Seats 12"));
    assertThat(never.screenClass()).isEqualTo(ScreenClass.FATAL_STOP);
    assertThat(never.sentence()).isEqualTo("\"Seats 12\" came, which must never be");
  }

  @ParameterizedTest
  @CsvSource({
    "NOTHING_TO_START, NOT_BOOTABLE",
    "NOT_DECIDED, NOT_DECIDED",
    "RESTARTED, FATAL_STOP",
    "OFF, FATAL_STOP",
    "HALTED, STALLED",
    "BUSY, STALLED",
    "WORKING, NOT_DECIDED",
    "WAITING, UNKNOWN"
  })
  void howItEndedCounts(Ending ending, ScreenClass expected) throws IOException {
    assertThat(read(watched(ending, 9000, text(1000, "something of its own"))).screenClass())
        .isEqualTo(expected);
  }

  @Test
  void nothingOnTheScreenIsBlank() throws IOException {
    assertThat(read(watched(Ending.WAITING, 9000, text(0, "", "  "))).screenClass())
        .isEqualTo(ScreenClass.BLANK);
    assertThat(read(watched(Ending.WAITING, 9000)).screenClass()).isEqualTo(ScreenClass.BLANK);
    assertThat(read(watched(Ending.WAITING, 9000, picture(0, 0))).screenClass())
        .isEqualTo(ScreenClass.BLANK);
  }

  /** A clock and a counter go on digit by digit; a word that was not there asks a person. */
  @ParameterizedTest
  @CsvSource({
    "'records kept: 10  12:34:56', LOGIN_REACHED",
    "'records kept: 99  23:59:59', LOGIN_REACHED",
    "'records LOST: 10  12:34:56', UNKNOWN",
    "'records kept: 100 12:34:56', LOGIN_REACHED",
    "'records kept: 1x  12:34:56', UNKNOWN",
    "'records kept: 10  12:34:56 !', UNKNOWN",
    "'records kept: 10', UNKNOWN"
  })
  void anAcceptedScreenMayDifferInItsNumbersAlone(String line, ScreenClass expected)
      throws IOException {
    Accepted accepted =
        new Accepted("Ida on 1 Nov", List.of("harbour", "records kept: 10  12:34:56"), null);
    Reading reading = ScreenReader.read(
        watched(Ending.WAITING, 9000, text(0, "harbour", line)),
        Expectation.of(List.of()),
        List.of(accepted));
    assertThat(reading.screenClass())
        .as(reading.sentence())
        .isEqualTo(line.contains("100") ? ScreenClass.UNKNOWN : expected);
    assertThat(reading.sentence()).contains("accepted by Ida on 1 Nov");
  }

  /** A prompt stands at the end of the last line, alone, and waits; it is the line that is quoted. */
  @ParameterizedTest
  @CsvSource({
    "'login: not found', UNKNOWN",
    "'bash: login: command not found', UNKNOWN",
    "'login: |starting services', UNKNOWN",
    "'Welcome|gate-3 login:', LOGIN_REACHED",
    "'gate-3.skerry.example login:', LOGIN_REACHED",
    "'the last failed attempt to login:', UNKNOWN",
    "'login:', LOGIN_REACHED",
    "'0 disk errors|gate login:', LOGIN_REACHED",
    "'Disk error', NOT_BOOTABLE",
    "'panic=10 root=/dev/sda|gate login:', LOGIN_REACHED",
    "'Rescue mode|Advanced options|gate login:', LOGIN_REACHED",
    "'gate login:|You are in rescue mode.|Press Enter for maintenance', REPAIR_PROMPT",
    "'grub rescue>', REPAIR_PROMPT",
    "'grub>', REPAIR_PROMPT"
  })
  void promptsAreToldFromWords(String lines, ScreenClass expected) throws IOException {
    Reading reading = read(watched(Ending.WAITING, 9000, text(1000, lines.split("\\|"))));
    assertThat(reading.screenClass()).as(reading.sentence()).isEqualTo(expected);
    if (expected == ScreenClass.LOGIN_REACHED) {
      assertThat(reading.sentence()).contains("login:\", and stays so");
    }
  }

  /** A menu that offers a rescue mode is no machine that waits for repair, as long as it goes on. */
  @Test
  void whatAMenuOffersIsNotWhatCame() throws IOException {
    Screen menu =
        text(500, "Harbour OS", "Harbour OS (rescue mode)", "You are in rescue mode help");
    assertThat(
            read(watched(Ending.WAITING, 9000, menu, text(1000, "gate login:"))).screenClass())
        .isEqualTo(ScreenClass.LOGIN_REACHED);
  }

  @Test
  void aLoginOnTheSerialLineCounts() throws IOException {
    Screen blank = text(100, "Booting from Hard Disk...");
    for (long still : new long[] {2999, 3000, -1}) {
      Watched watched = new Watched(
          "e", List.of(blank), "Harbour 4\r\n\r\ngate login: ", still, Ending.WAITING, 9000, "");
      Reading reading = read(watched);
      assertThat(reading.screenClass())
          .isEqualTo(still >= 3000 ? ScreenClass.LOGIN_REACHED : ScreenClass.STALLED);
    }
    Watched emergency = new Watched(
        "e", List.of(blank), "Press Enter for maintenance\n", 5000, Ending.WAITING, 9000, "");
    assertThat(read(emergency).screenClass()).isEqualTo(ScreenClass.REPAIR_PROMPT);
  }

  /** What was read of a picture counts as text does: a panic on it is never "a picture". */
  @Test
  void whatWasReadOfAPictureCounts() throws IOException {
    Screen drawn = picture(8, 0);
    assertThat(read(watched(Ending.WAITING, 9000, drawn.with("Kernel panic - not syncing\n")))
            .screenClass())
        .isEqualTo(ScreenClass.FATAL_STOP);
    Reading login = read(watched(Ending.WAITING, 9000, drawn.with("Welcome\ngate login:\n")));
    assertThat(login.screenClass()).isEqualTo(ScreenClass.LOGIN_REACHED);
    assertThat(login.sentence()).contains("as OCR reads it");
  }

  /** A picture with a frame, lines of "text" and a clock that shows {@code clock}. */
  private static Screen picture(int lines, int clock) throws IOException {
    BufferedImage image = new BufferedImage(640, 400, BufferedImage.TYPE_INT_RGB);
    Graphics2D g = image.createGraphics();
    g.setColor(Color.LIGHT_GRAY);
    for (int i = 0; i < lines; i++) {
      g.fillRect(40, 40 + i * 32, 200 + i * 37 % 300, 14);
    }
    if (lines > 0) {
      g.fillRect(560 + clock % 4 * 8, 4, 8, 14);
    }
    g.dispose();
    var out = new ByteArrayOutputStream();
    ImageIO.write(image, "png", out);
    return new Screen(1000, null, out.toByteArray());
  }

  private static Reading picture(Screen shown, Screen accepted) throws IOException {
    List<Accepted> all = new ArrayList<>();
    if (accepted != null) {
      all.add(new Accepted("Ida", null, accepted.png()));
    }
    return ScreenReader.read(watched(Ending.WAITING, 9000, shown), Expectation.of(List.of()), all);
  }

  @Test
  void picturesAreComparedByTilesAndHash() throws IOException {
    Screen home = picture(8, 0);
    assertThat(picture(home, null).screenClass()).isEqualTo(ScreenClass.UNKNOWN);
    Reading later = picture(picture(8, 3), home);
    assertThat(later.screenClass()).as(later.sentence()).isEqualTo(ScreenClass.LOGIN_REACHED);
    Reading other = picture(picture(3, 0), home);
    assertThat(other.screenClass()).as(other.sentence()).isEqualTo(ScreenClass.UNKNOWN);
    assertThat(other.sentence()).contains("differ from the one accepted by Ida");
  }

  @Test
  void distancesAreThoseOfTheirDefinition() throws IOException {
    PictureHash a = PictureHash.of(picture(8, 0).png());
    PictureHash b = PictureHash.of(picture(3, 0).png());
    assertThat(a.tileDistance(a)).isZero();
    assertThat(a.hashDistance(a)).isZero();
    assertThat(a.tileDistance(b)).isEqualTo(b.tileDistance(a)).isBetween(0.15, 1.0);
    assertThat(a.hashDistance(b)).isEqualTo(b.hashDistance(a)).isBetween(0, 63);
    assertThat(PictureHash.of(picture(0, 0).png()).tileDistance(a)).isEqualTo(1);
    assertThatThrownBy(() -> PictureHash.of(new byte[] {1, 2, 3}))
        .hasMessage("the picture of the screen can't be read");
  }

  @Test
  void textsAreComparedBySigns() {
    assertThat(ScreenReader.difference(List.of(), List.of())).isZero();
    assertThat(ScreenReader.difference(List.of("ab"), List.of("ab  "))).isZero();
    assertThat(ScreenReader.difference(List.of("ab"), List.of("ac"))).isEqualTo(0.5);
    assertThat(ScreenReader.difference(List.of("ab"), List.of("ab", "cd"))).isEqualTo(0.5);
    assertThat(ScreenReader.difference(List.of("ab"), List.of())).isEqualTo(1);
  }
}
