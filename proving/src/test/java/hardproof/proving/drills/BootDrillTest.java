package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import hardproof.proving.Command;
import hardproof.proving.Tar;
import hardproof.proving.boot.BootSector;
import hardproof.proving.boot.ScreenReader;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;

class BootDrillTest extends WithStore {
  private static byte[] image(BootSector sector) {
    return Arrays.copyOf(sector.build(), 64 << 10);
  }

  private static BootSector login() {
    return new BootSector().clear().print("Tarnwick 4\r\n\r\nquay-1 login: ");
  }

  private DrillResult boot(byte[] image, Check... checks) throws IOException {
    Artifact a = put("m.img.gz", "img.gz", Tar.gzip(image), null);
    return runner.run(request(Method.BOOT, List.of(checks), false, a), watcher);
  }

  @Test
  void aMachineThatReachesItsLoginIsRunning() throws IOException {
    DrillResult result = boot(image(login().waitForKeys()));
    assertThat(result.checks()).as(result.sentence()).isEqualTo(ChecksState.PASSED);
    assertThat(result.reaches()).isEqualTo(Rung.RUNNING);
    assertThat(result.sentence())
        .isEqualTo("started: it reached its login: it shows \"quay-1 login:\", and stays so"
            + " (the stand-in engine)");
    assertThat(watcher.screenClass).isEqualTo("login-reached");
    assertThat(watcher.lastScreens).isNotEmpty();
    assertThat(watcher.events).contains("screen");
    assertThat(watcher.steps)
        .containsExactly(
            "Restore m.img.gz under a new name",
            "Look at the partition table and the file systems",
            "Start with no network, by the stand-in engine",
            "Read the screen",
            "Remove the restored data");
    assertThat(sandboxes.present()).isEmpty();
  }

  @Test
  void aMachineThatDoesNotStartIsDisproved() throws IOException {
    DrillResult panic =
        boot(image(new BootSector().print("Kernel panic - not syncing").halt()));
    assertThat(panic.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(panic.sentence())
        .startsWith("started, but it stopped for good: it shows \"Kernel panic - not syncing\"");
    assertThat(panic.blamedStore()).isNull();
    assertThat(watcher.lastScreens).as("its picture is kept").isNotEmpty();
  }

  /** The picture that a verdict rests on stays in the evidence, however much was shown after it. */
  @Test
  void theScreenThatDecidedIsKept() throws IOException {
    BootSector sector = new BootSector().print("Kernel panic").pause(100);
    for (char c = 'a'; c < 'n'; c++) {
      sector.clear().print("" + c).pause(100);
    }
    DrillResult panic = boot(image(sector.clear().print("harbour-1 login: ").idle()));
    assertThat(panic.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(watcher.lastScreens).hasSize(4);
    assertThat(watcher.lastScreens.get(0).text()).contains("Kernel panic");
    assertThat(watcher.lastScreens.get(3).text()).contains("login:");
  }

  @Test
  void damageThatIsSeenBeforehandIsNamed() throws IOException {
    DrillResult unsigned = boot(new byte[4096]);
    assertThat(unsigned.sentence())
        .isEqualTo("restored whole, but the boot record has no signature (55 AA at byte 510)");
    assertThat(unsigned.checks()).isEqualTo(ChecksState.FAILED);
  }

  /** Unknown never passes: a person has to say, and may want to look. */
  @Test
  void anUnknownScreenWaitsForAPerson() throws IOException {
    byte[] image = image(
        new BootSector().clear().print("Berth panel ready. Touch to begin.").waitForKeys());
    DrillResult unknown = boot(image);
    assertThat(unknown.restore()).isEqualTo(RestoreState.DONE);
    assertThat(unknown.checks()).isEqualTo(ChecksState.WAITING);
    assertThat(unknown.awaits()).isEqualTo(DrillResult.Awaits.PERSON);
    assertThat(unknown.cleanup()).isEqualTo(CleanupState.NOT_DUE);
    assertThat(watcher.screenClass).isEqualTo("unknown");
    var screen = watcher.lastScreens.get(watcher.lastScreens.size() - 1);

    DrillRequest r = request(Method.BOOT, List.of(), false, put("m.img", "img", image, null));
    DrillRequest knowing = new DrillRequest(
        "run-2",
        new DrillRequest.Of(r.resource(), r.point(), r.dataTime()),
        new DrillRequest.From(r.storeKey(), r.storeName(), r.store()),
        r.method(),
        r.chain(),
        r.checks(),
        false,
        r.options(),
        null,
        List.of(new ScreenReader.Accepted("operator on 20 Nov", screen.lines(), screen.png())));
    assertThat(runner.run(knowing, new Recorder()).checks()).isEqualTo(ChecksState.PASSED);
  }

  @Test
  void checksOfAMachineAreAskedOfItsScreen() throws IOException {
    byte[] image = image(login().waitForKeys());
    assertThat(boot(image, Check.of(CheckType.SCREEN_SHOWS, "quay-\\d login")).checks())
        .isEqualTo(ChecksState.PASSED);
    assertThat(ask(
                Method.BOOT,
                put("n.img", "img", image, null),
                Check.of(CheckType.SCREEN_NEVER_SHOWS, "Tarnwick"))
            .sentence())
        .startsWith("started, but it stopped for good: \"Tarnwick\" came, which must never be");
    assertThat(ask(
                Method.BOOT,
                put("o.img", "img", image, null),
                Check.of(CheckType.SERVICE_ANSWERS, "http:8080"))
            .sentence())
        .isEqualTo("the machine said nothing of its service http:8080");
  }

  @Test
  void whatTheStandInEngineCantExecuteIsNoFailure() throws IOException {
    Artifact a = put("p.img", "img", image(new BootSector().print("login: ").protect()), null);
    DrillResult result = runner.run(
        request(
            Method.BOOT,
            List.of(),
            false,
            new DrillOptions("", 1, List.of(), "stand-in", Duration.ofMinutes(1)),
            a),
        new Recorder());
    assertThat(result.restore()).isEqualTo(RestoreState.DONE);
    assertThat(result.checks()).isEqualTo(ChecksState.NOT_ASKED);
    assertThat(result.blamedPoint()).isNull();
    assertThat(result.sentence()).startsWith("not decided: it needs a real engine");
  }

  private static void qemuNeeded() {
    var qemu =
        ENGINES.all().stream().filter(e -> e.code().equals("qemu")).findFirst().orElseThrow();
    assumeTrue(qemu.present(), qemu.sentence());
  }

  @Test
  void othersFormsOfImagesAreMadeRawFirst() throws Exception {
    qemuNeeded();
    assumeTrue(Command.there("qemu-img"), "qemu-img is not installed");
    Files.write(temp.resolve("raw"), image(login().waitForKeys()));
    for (String form : List.of("qcow2", "vmdk", "vdi", "vpc", "vhdx")) {
      Command made =
          Command.run(temp, "qemu-img", "convert", "-f", "raw", "-O", form, "raw", "m." + form);
      assertThat(made.exit()).as(made.output()).isZero();
      DrillResult result = runner.run(
          request(
              Method.BOOT,
              List.of(),
              false,
              new DrillOptions("", 1, List.of(), null, Duration.ofSeconds(30)),
              put(
                  "m." + form,
                  form.equals("vpc") ? "vhd" : form,
                  Files.readAllBytes(temp.resolve("m." + form)),
                  null)),
          new Recorder());
      assertThat(result.checks()).as(form + ": " + result.sentence()).isEqualTo(ChecksState.PASSED);
      assertThat(result.sentence()).endsWith("(the stand-in engine)");
    }
  }

  /** A qcow2 may name any file as the one below it; starting it would show that file to the machine. */
  @Test
  void anImageThatReachesForAnotherFileIsRefused() throws Exception {
    qemuNeeded();
    assumeTrue(Command.there("qemu-img"), "qemu-img is not installed");
    Path secret = temp.resolve("secret");
    Files.write(secret, new byte[65_536]);
    Command made = Command.run(
        temp, "qemu-img", "create", "-f", "qcow2", "-b", secret.toString(), "-F", "raw", "o.qcow2");
    assertThat(made.exit()).as(made.output()).isZero();
    DrillResult result = run(
        Method.BOOT, put("o.qcow2", "qcow2", Files.readAllBytes(temp.resolve("o.qcow2")), null));
    assertThat(result.restore()).isEqualTo(RestoreState.INTERRUPTED);
    assertThat(result.blamedPoint()).isNull();
    assertThat(result.sentence())
        .contains("takes parts of itself from another file (a backing file), which is refused");
  }

  /** So may it keep its data in another file; a login there would be no proof of this backup. */
  @Test
  void anImageWhoseDataLiesElsewhereIsRefused() throws Exception {
    qemuNeeded();
    assumeTrue(Command.there("qemu-img"), "qemu-img is not installed");
    Files.write(temp.resolve("raw"), image(login().waitForKeys()));
    Command made = Command.run(
        temp,
        "qemu-img",
        "convert",
        "-O",
        "qcow2",
        "-o",
        "data_file=" + temp.resolve("data") + ",data_file_raw=on",
        "raw",
        "e.qcow2");
    assertThat(made.exit()).as(made.output()).isZero();
    DrillResult result = run(
        Method.BOOT, put("e.qcow2", "qcow2", Files.readAllBytes(temp.resolve("e.qcow2")), null));
    assertThat(result.restore()).isEqualTo(RestoreState.INTERRUPTED);
    assertThat(result.sentence()).contains("keeps its data in another file, which is refused");
  }
}
