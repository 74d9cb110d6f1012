package hardproof.proving.boot.qemu;

import hardproof.proving.boot.BootEngine;
import hardproof.proving.boot.BootSector;
import hardproof.proving.boot.Ending;
import hardproof.proving.boot.Ocr;
import hardproof.proving.boot.Screen;
import hardproof.proving.boot.Watched;
import hardproof.proving.sandboxes.Commands;
import hardproof.proving.sandboxes.FewerRights;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * QEMU, where it is installed: a whole machine, with no network card, that writes nothing to its image.
 * It counts as there only after it started a boot sector of ours and its text was read.
 *
 * <p>Times are the machine's own: its clock goes by the instructions it executes, so that no tick of its
 * timers is lost, and keeps with the clock on the wall where it can. A computer that is busy with other
 * things then does not let a machine that was about to fail look as if it had stood still.
 */
public final class QemuEngine implements BootEngine {
  private static final String PROGRAM = "qemu-system-x86_64";
  private static final String SELF_TEST = "SELF TEST 4711";
  private static final int MEMORY_MB = 512;

  /**
   * What an instruction takes follows the speed at which they are executed, up to a microsecond. A fixed
   * time was measured: firmware that polls a timer then took ten times as long.
   */
  private static final String CLOCK = "shift=auto";

  /** Of processor time; one that this process leaves behind ends by it. */
  private static final Duration KEPT_AT_MOST = Duration.ofHours(24);

  private static final List<Path> EFI_FIRMWARE =
      List.of(Path.of("/usr/share/OVMF/OVMF_CODE.fd"), Path.of("/usr/share/OVMF/OVMF_CODE_4M.fd"));

  private final String version;
  private final Ocr ocr;

  private QemuEngine(String version) {
    this.version = version;
    this.ocr = Ocr.find(FewerRights.prefix());
  }

  /** What was looked for and found, for people; {@code engine} null when it can't be used. */
  public record Found(QemuEngine engine, String sentence) {}

  /** Ends the self-test as soon as its text was read. */
  private static final class SelfTestPassed extends RuntimeException {
    private static final long serialVersionUID = 1L;
  }

  /** Looks for QEMU and tries it out; takes a second or two. */
  public static Found find(Path work) {
    String version;
    try {
      version =
          Commands.run(List.of(PROGRAM, "--version"), Duration.ofSeconds(20)).output();
    } catch (IOException e) {
      return new Found(
          null,
          "QEMU is not installed. On Debian: apt-get install qemu-system-x86 qemu-utils (and ovmf for"
              + " machines that EFI firmware starts). Machines that need more than simple boot code can't"
              + " be decided without it.");
    }
    String number = version.replaceAll("(?s).*?(\\d+\\.\\d+\\.\\d+).*", "$1");
    QemuEngine engine = new QemuEngine(number);
    try {
      return tried(work, number, engine);
    } catch (SelfTestPassed e) {
      return new Found(engine, engine.name());
    } catch (IOException e) {
      return new Found(
          null, "QEMU " + number + " is there, but its self-test failed: " + e.getMessage());
    } finally {
      remove(work);
    }
  }

  private static Found tried(Path work, String number, QemuEngine engine) throws IOException {
    Files.createDirectories(work);
    Path image = work.resolve("self-test.img");
    Files.write(image, new BootSector().print(SELF_TEST).idle().build());
    Start start = new Start(
        image,
        false,
        Bus.IDE,
        work,
        Duration.ofSeconds(30),
        t -> t.contains(SELF_TEST),
        t -> false,
        "00000000");
    boolean[] read = new boolean[1];
    engine.watch(start, s -> read[0] |= s.lines() != null && s.text().contains(SELF_TEST), () -> {
      if (read[0]) {
        throw new SelfTestPassed();
      }
    });
    return new Found(null, "QEMU " + number + " is there, but its self-test showed nothing");
  }

  private static void remove(Path work) {
    try {
      hardproof.proving.sandboxes.Sandboxes.removeTree(work);
    } catch (IOException e) {
      // The next self-test removes it.
    }
  }

  @Override
  public String code() {
    return "qemu";
  }

  @Override
  public String name() {
    return "QEMU " + version;
  }

  private static Path efiFirmware() {
    return EFI_FIRMWARE.stream().filter(Files::isReadable).findFirst().orElse(null);
  }

  @Override
  public Watched watch(
      Start start, Consumer<Screen> shown, Runnable stopIfCancelled, @Nullable Keeping keeping)
      throws IOException {
    Path firmware = start.efi() ? efiFirmware() : null;
    if (start.efi() && firmware == null) {
      return needsFirmware();
    }
    Path serial = start.work().resolve("serial");
    Process process = started(start, firmware, serial, keeping != null);
    try {
      return new QemuWatch(process, start, serial, ocr, shown, stopIfCancelled).watch(keeping);
    } catch (EngineFailed e) {
      String said = Files.readString(start.work().resolve("qemu.log")).strip();
      throw said.isEmpty()
          ? e
          : new EngineFailed(e.getMessage() + ": " + said.lines().findFirst().orElse(""), e);
    } finally {
      process.descendants().forEach(ProcessHandle::destroyForcibly);
      // Until it is gone it may still write to the folder that is removed next.
      process.destroyForcibly().onExit().join();
    }
  }

  private Watched needsFirmware() {
    return new Watched(
        name(),
        List.of(),
        "",
        Ending.NOT_DECIDED,
        0,
        "it is started by EFI firmware; install the package ovmf for it");
  }

  private static Process started(Start start, Path firmware, Path serial, boolean kept)
      throws BootEngine.EngineFailed {
    ProcessBuilder builder = new ProcessBuilder(command(start, firmware, serial, kept));
    Commands.cleanEnvironment(builder);
    // What the machine would write goes to a file that is deleted at once, here and not elsewhere.
    builder.environment().put("TMPDIR", start.work().toString());
    builder.redirectError(start.work().resolve("qemu.log").toFile());
    Process process;
    try {
      process = builder.start();
    } catch (IOException e) {
      throw new EngineFailed("QEMU could not be started: " + e.getMessage(), e);
    }
    return process;
  }

  private static List<String> command(Start start, Path firmware, Path serial, boolean kept) {
    Duration alone = start.limit().multipliedBy(2L * QemuWatch.WALL_LIMITS);
    List<String> command =
        new ArrayList<>(FewerRights.prefix(kept ? alone.plus(KEPT_AT_MOST) : alone));
    command.addAll(List.of(
        PROGRAM,
        "-nodefaults",
        "-no-user-config",
        "-machine",
        "pc",
        "-accel",
        "tcg",
        "-icount",
        CLOCK,
        "-m",
        String.valueOf(MEMORY_MB),
        "-vga",
        "std",
        "-display",
        "none",
        "-nic",
        "none",
        "-drive",
        "driver=raw,file.driver=file,file.filename=" + escaped(start.image()) + ",snapshot=on,"
            + switch (start.bus()) {
              case IDE -> "if=ide";
              case VIRTIO -> "if=virtio";
              case SATA -> "if=none,id=disk";
            },
        // It is let go when it was seen what it has opened.
        "-S",
        "-serial",
        "file:" + serial.toString().replace(",", ",,"),
        "-qmp",
        "stdio",
        "-smbios",
        "type=1,serial=nonce=" + start.nonce(),
        "-action",
        "reboot=shutdown,shutdown=pause,panic=pause",
        "-sandbox",
        "on,obsolete=deny,elevateprivileges=deny,spawn=deny,resourcecontrol=deny"));
    if (start.bus() == Bus.SATA) {
      command.addAll(
          List.of("-device", "ich9-ahci,id=sata", "-device", "ide-hd,drive=disk,bus=sata.0"));
    }
    if (firmware != null) {
      command.addAll(List.of("-drive", "if=pflash,format=raw,readonly=on,file=" + firmware));
    }
    return command;
  }

  private static String escaped(Path file) {
    return file.toAbsolutePath().toString().replace(",", ",,");
  }
}
