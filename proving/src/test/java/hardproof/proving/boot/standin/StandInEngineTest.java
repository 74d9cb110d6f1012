package hardproof.proving.boot.standin;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import hardproof.proving.boot.BootEngine;
import hardproof.proving.boot.BootSector;
import hardproof.proving.boot.Ending;
import hardproof.proving.boot.Expectation;
import hardproof.proving.boot.ScreenClass;
import hardproof.proving.boot.ScreenReader;
import hardproof.proving.boot.ServiceReports;
import hardproof.proving.boot.Watched;
import hardproof.proving.boot.qemu.QemuEngine;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What the stand-in engine makes of boot code, and that QEMU makes the same of it where it is installed. */
class StandInEngineTest {
  private static final String LOGIN = "\r\n\r\nharbour-1 login: ";
  private static final Expectation USUAL = Expectation.of(List.of());

  @TempDir
  Path temp;

  private Watched watch(BootEngine engine, byte[] image, Duration limit) throws IOException {
    Path file = temp.resolve("machine.img");
    Files.write(file, image);
    byte[] before = Files.readAllBytes(file);
    Path work = Files.createDirectories(temp.resolve("work"));
    Watched watched = engine.watch(
        new BootEngine.Start(
            file,
            false,
            BootEngine.Bus.IDE,
            work,
            limit,
            t -> ScreenReader.decisive(t, USUAL),
            t -> ScreenReader.bad(t, USUAL),
            "00c0ffee00c0ffee"),
        s -> {},
        () -> {});
    assertThat(Files.readAllBytes(file)).as("the image is never written").isEqualTo(before);
    return watched;
  }

  private Watched watch(byte[] image) throws IOException {
    return watch(new StandInEngine(), image, Duration.ofMinutes(1));
  }

  private static ScreenReader.Reading read(Watched watched) throws IOException {
    return ScreenReader.read(watched, USUAL, List.of());
  }

  private static byte[] withSectors(byte[] first, String... texts) {
    byte[] disk = Arrays.copyOf(first, 512 * (1 + texts.length));
    for (int i = 0; i < texts.length; i++) {
      byte[] text = texts[i].getBytes(StandardCharsets.ISO_8859_1);
      System.arraycopy(text, 0, disk, 512 * (i + 1), text.length);
    }
    return disk;
  }

  /** Small images of every kind, with the class that each must come to. */
  private static Map<String, Object[]> machines() {
    Map<String, Object[]> machines = new LinkedHashMap<>();
    machines.put("login", new Object[] {
      new BootSector().print("Tarnwick 4.1" + LOGIN).waitForKeys().build(),
      ScreenClass.LOGIN_REACHED
    });
    machines.put("login, idle", new Object[] {
      new BootSector().print("Starting ...").pause(500).print(LOGIN).idle().build(),
      ScreenClass.LOGIN_REACHED
    });
    machines.put("login, then a panic", new Object[] {
      new BootSector()
          .print(LOGIN)
          .pause(700)
          .print("\r\nKernel panic - not syncing")
          .halt()
          .build(),
      ScreenClass.FATAL_STOP
    });
    machines.put("fatal stop", new Object[] {
      new BootSector().print("Kernel panic - not syncing: no root").halt().build(),
      ScreenClass.FATAL_STOP
    });
    machines.put("repair", new Object[] {
      new BootSector().print("You are in emergency mode.\r\n# ").waitForKeys().build(),
      ScreenClass.REPAIR_PROMPT
    });
    machines.put("no signature", new Object[] {new byte[1024], ScreenClass.NOT_BOOTABLE});
    machines.put("too short", new Object[] {new byte[300], ScreenClass.NOT_BOOTABLE});
    machines.put("a circle", new Object[] {
      new BootSector().print("Loading the harbour ...").spin().build(), ScreenClass.STALLED
    });
    machines.put(
        "blank", new Object[] {new BootSector().clear().idle().build(), ScreenClass.BLANK});
    machines.put("never seen before", new Object[] {
      new BootSector().print("Port console, press a key").waitForKeys().build(), ScreenClass.UNKNOWN
    });
    machines.put(
        "restarts",
        new Object[] {new BootSector().print("Booting").restart().build(), ScreenClass.FATAL_STOP});
    machines.put("second stage", new Object[] {
      withSectors(
          new BootSector().printSector(1, "Disk read error").waitForKeys().build(),
          "stage two" + LOGIN + "\0"),
      ScreenClass.LOGIN_REACHED
    });
    machines.put("second stage cut off", new Object[] {
      new BootSector().printSector(9, "Disk read error").waitForKeys().build(),
      ScreenClass.NOT_BOOTABLE
    });
    return machines;
  }

  @Test
  void everyKindOfEndingIsToldApart() throws IOException {
    for (Map.Entry<String, Object[]> machine : machines().entrySet()) {
      ScreenReader.Reading reading = read(watch((byte[]) machine.getValue()[0]));
      assertThat(reading.screenClass())
          .as(machine.getKey() + ": " + reading.sentence())
          .isEqualTo(machine.getValue()[1]);
    }
  }

  /** The peer: a whole machine comes to the same class for the same bytes, and shows the same text. */
  @Test
  void aWholeMachineComesToTheSame() throws IOException {
    QemuEngine.Found found = QemuEngine.find(temp.resolve("self-test"));
    assumeTrue(found.engine() != null, found.sentence());
    Map<String, Object[]> some = machines();
    some.keySet()
        .retainAll(List.of(
            "login",
            "login, then a panic",
            "no signature",
            "a circle",
            "restarts",
            "second stage"));
    for (Map.Entry<String, Object[]> machine : some.entrySet()) {
      byte[] image = (byte[]) machine.getValue()[0];
      Watched real = watch(found.engine(), image, Duration.ofSeconds(8));
      assertThat(read(real).screenClass())
          .as(machine.getKey() + ": " + read(real).sentence())
          .isEqualTo(machine.getValue()[1]);
      String own = lastLine(watch(image));
      assertThat(real.last().text()).as(machine.getKey()).contains(own);
      assertThat(ImageIO.read(new ByteArrayInputStream(real.last().png())).getWidth())
          .isGreaterThanOrEqualTo(640);
    }
  }

  /** However much came after it: what showed bad words once did not come up. */
  @Test
  void aBadScreenOfLongAgoStillDecides() throws IOException {
    BootSector sector = new BootSector().print("Kernel panic - not syncing").pause(100);
    for (int i = 0; i < 13; i++) {
      sector.clear().print("" + (char) ('a' + i)).pause(100);
    }
    Watched watched = watch(sector.clear().print("harbour-1" + LOGIN).idle().build());
    assertThat(watched.last().text()).contains(LOGIN.strip());
    assertThat(watched.screens()).hasSizeLessThanOrEqualTo(13);
    assertThat(watched.screens().get(0).text()).contains("Kernel panic");
    assertThat(read(watched).screenClass()).isEqualTo(ScreenClass.FATAL_STOP);
  }

  private static String lastLine(Watched watched) {
    List<String> lines = new ArrayList<>(watched.last().text().lines().toList());
    return lines.isEmpty() ? "" : lines.get(lines.size() - 1).strip();
  }

  @Test
  void whatItCannotExecuteIsNotDecided() throws IOException {
    Watched watched = watch(new BootSector().print("login: ").protect().idle().build());
    assertThat(watched.ending()).isEqualTo(Ending.NOT_DECIDED);
    assertThat(read(watched).screenClass()).isEqualTo(ScreenClass.NOT_DECIDED);
    assertThat(read(watched).sentence())
        .startsWith("it came to code of the 80286 or newer (0F at 0000:");
  }

  /** "Unknown never passes": an accepted screen does, a changed clock on it too, another does not. */
  @Test
  void anAcceptedScreenIsKnownAgain() throws IOException {
    String sign =
        "Port console of berth 4\r\nnow 12:34:56\r\nPress any key to sign on to the quay system";
    Watched first = watch(new BootSector().clear().print(sign).waitForKeys().build());
    ScreenReader.Accepted accepted = new ScreenReader.Accepted(
        "operator on 24 Nov", first.last().lines(), first.last().png());
    Watched later = watch(new BootSector()
        .clear()
        .print(sign.replace("12:34:56", "23:59:59"))
        .waitForKeys()
        .build());
    ScreenReader.Reading known = ScreenReader.read(later, USUAL, List.of(accepted));
    assertThat(known.screenClass()).isEqualTo(ScreenClass.LOGIN_REACHED);
    assertThat(known.sentence()).contains("accepted by operator on 24 Nov");
    Watched other = watch(new BootSector()
        .clear()
        .print("Something else altogether")
        .waitForKeys()
        .build());
    ScreenReader.Reading unknown = ScreenReader.read(other, USUAL, List.of(accepted));
    assertThat(unknown.screenClass()).isEqualTo(ScreenClass.UNKNOWN);
    assertThat(unknown.sentence()).contains("differ from the one accepted by");
  }

  @Test
  void benignMessagesDoNotFailAMachine() throws IOException {
    byte[] image = new BootSector()
        .print("Unclean shutdown. Run fsck manually\r\n" + LOGIN)
        .waitForKeys()
        .build();
    assertThat(read(watch(image)).screenClass()).isEqualTo(ScreenClass.REPAIR_PROMPT);
    Expectation benign =
        Expectation.of(List.of(Check.of(CheckType.BENIGN_MESSAGE, "run fsck manually")));
    assertThat(ScreenReader.read(watch(image), benign, List.of()).screenClass())
        .isEqualTo(ScreenClass.LOGIN_REACHED);
  }

  @Test
  void theMachineReportsItsServicesWithTheNonceOfThisRun() throws IOException {
    byte[] image = new BootSector()
        .print(LOGIN)
        .send("@PROBE ")
        .sendNonce()
        .send(
            " service=http:8080 result=ok @END\n@PROBE nonce=11111111 service=sql result=ok @END\n")
        .waitForKeys()
        .build();
    List<BootEngine> engines = new ArrayList<>(List.of(new StandInEngine()));
    QemuEngine.Found found = QemuEngine.find(temp.resolve("self-test"));
    if (found.engine() != null) {
      engines.add(found.engine());
    }
    for (BootEngine engine : engines) {
      Watched watched = watch(engine, image, Duration.ofSeconds(20));
      assertThat(ServiceReports.of(watched.serial(), "00c0ffee00c0ffee"))
          .as(engine.code() + ": " + watched.serial())
          .containsExactly(Map.entry("http:8080", "ok"));
    }
    assertThat(ServiceReports.of("@PROBE nonce=00c0ffee service=a result=ok", "00c0ffee"))
        .as("a line that is not finished")
        .isEmpty();
  }

  /** An image that never stops printing is stopped, in bounded memory. */
  @Test
  void aMachineThatNeverStopsPrintingIsStopped() throws IOException {
    // start: print "x" over screen and serial line for ever
    byte[] image = new BootSector()
        .raw(0xb8, 0x58, 0x0e, 0xbb, 0x07, 0x00, 0xcd, 0x10, 0xba, 0xf8, 0x03, 0xee, 0xeb, 0xf2)
        .build();
    Watched watched = watch(image);
    assertThat(watched.serial().length()).isEqualTo(256 << 10);
    assertThat(watched.screens()).hasSizeLessThanOrEqualTo(12);
    assertThat(read(watched).screenClass()).isEqualTo(ScreenClass.STALLED);
  }

  @Test
  void cancellingEndsTheMachine() throws IOException {
    Path file = temp.resolve("c.img");
    Files.write(file, new BootSector().spin().build());
    BootEngine.Start start = new BootEngine.Start(
        file,
        false,
        BootEngine.Bus.IDE,
        temp,
        Duration.ofMinutes(1),
        t -> false,
        t -> false,
        "00000000");
    assertThatThrownBy(() -> new StandInEngine().watch(start, s -> {}, () -> {
          throw new IllegalStateException("cancelled");
        }))
        .hasMessage("cancelled");
  }

  @Test
  void thePictureShowsTheText() throws IOException {
    Watched watched = watch(new BootSector().clear().print("A").waitForKeys().build());
    var image = ImageIO.read(new ByteArrayInputStream(watched.last().png()));
    assertThat(image.getWidth()).isEqualTo(960);
    int lit = 0;
    for (int y = 0; y < image.getHeight(); y++) {
      for (int x = 0; x < image.getWidth(); x++) {
        if ((image.getRGB(x, y) & 0xffffff) != (image.getRGB(959, 499) & 0xffffff)) {
          lit++;
          assertThat(x).isLessThan(12);
          assertThat(y).isLessThan(20);
        }
      }
    }
    assertThat(lit).as("the dots of one letter, four each").isEqualTo(4 * 16);
  }
}
