package hardproof.proving.boot;

import hardproof.core.wording.Wording;
import hardproof.proving.sandboxes.Commands;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

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
  private static final int VIDEO = 0xb8000;
  private static final int VIDEO_BYTES = 0x8000;
  private static final int SCREENS_KEPT = 12;
  private static final int SERIAL_MAX_BYTES = 256 << 10;
  private static final int MEMORY_MB = 512;
  private static final long LOOK_EVERY_MS = 150;

  /**
   * What an instruction takes follows the speed at which they are executed, up to a microsecond. A fixed
   * time was measured: firmware that polls a timer then took ten times as long.
   */
  private static final String CLOCK = "shift=auto";

  /** By the clock on the wall a machine may take so many times its limit. */
  private static final int WALL_LIMITS = 5;

  /** So long a screen that decides must have stood still. */
  private static final long DECIDED_MS = 4_000;

  /** So long any screen must have stood still to be taken for the last one. */
  private static final long SETTLED_MS = 30_000;

  private static final List<Path> EFI_FIRMWARE =
      List.of(Path.of("/usr/share/OVMF/OVMF_CODE.fd"), Path.of("/usr/share/OVMF/OVMF_CODE_4M.fd"));

  private final String version;
  private final List<String> prefix;

  private QemuEngine(String version, List<String> prefix) {
    this.version = version;
    this.prefix = prefix;
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
    QemuEngine engine = new QemuEngine(number, isolation());
    try {
      Files.createDirectories(work);
      Path image = work.resolve("self-test.img");
      Files.write(image, new BootSector().print(SELF_TEST).idle().build());
      Start start = new Start(
          image,
          "raw",
          false,
          work,
          Duration.ofSeconds(30),
          t -> t.contains(SELF_TEST),
          "00000000");
      boolean[] read = new boolean[1];
      engine.watch(start, s -> read[0] |= s.lines() != null && s.text().contains(SELF_TEST), () -> {
        if (read[0]) {
          throw new SelfTestPassed();
        }
      });
      return new Found(null, "QEMU " + number + " is there, but its self-test showed nothing");
    } catch (SelfTestPassed e) {
      return new Found(engine, engine.name());
    } catch (IOException e) {
      return new Found(
          null, "QEMU " + number + " is there, but its self-test failed: " + e.getMessage());
    } finally {
      try {
        hardproof.proving.sandboxes.Sandboxes.removeTree(work);
      } catch (IOException e) {
        // The next self-test removes it.
      }
    }
  }

  /** Namespaces of its own take away root's rights and every network, where the system allows that. */
  private static List<String> isolation() {
    for (List<String> prefix :
        List.of(List.of("unshare", "--user", "--net"), List.of("unshare", "--user"))) {
      try {
        List<String> trial = new ArrayList<>(prefix);
        trial.add("true");
        if (Commands.run(trial, Duration.ofSeconds(20)).exit() == 0) {
          return prefix;
        }
      } catch (IOException e) {
        // Without it there is still no network card and no writing.
      }
    }
    return List.of();
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
  public Watched watch(Start start, Consumer<Screen> shown, Runnable stopIfCancelled)
      throws IOException {
    Path firmware = start.efi() ? efiFirmware() : null;
    if (start.efi() && firmware == null) {
      return new Watched(
          name(),
          List.of(),
          "",
          Ending.NOT_DECIDED,
          0,
          "it is started by EFI firmware; install the package ovmf for it");
    }
    if (!start.form().equals("raw")) {
      refuseOtherFiles(start.image(), start.form());
    }
    Path serial = start.work().resolve("serial");
    ProcessBuilder builder = new ProcessBuilder(command(start, firmware, serial));
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
    try {
      return new Watching(process, start, serial, shown, stopIfCancelled).watch();
    } catch (EngineFailed e) {
      String said = Files.readString(start.work().resolve("qemu.log")).strip();
      throw said.isEmpty()
          ? e
          : new EngineFailed(e.getMessage() + ": " + said.lines().findFirst().orElse(""), e);
    } finally {
      process.descendants().forEach(ProcessHandle::destroyForcibly);
      process.destroyForcibly();
    }
  }

  private List<String> command(Start start, Path firmware, Path serial) {
    List<String> command = new ArrayList<>(prefix);
    String image = start.image().toAbsolutePath().toString().replace(",", ",,");
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
        "file=" + image + ",format=" + start.form() + ",if=ide,snapshot=on",
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
    if (firmware != null) {
      command.addAll(List.of("-drive", "if=pflash,format=raw,readonly=on,file=" + firmware));
    }
    return command;
  }

  /** An image may name another file as the one below it, which would then be read as its own. */
  private static void refuseOtherFiles(Path image, String form) throws IOException {
    Commands.Result info = Commands.run(
        List.of("qemu-img", "info", "--output=json", "-f", form, image.toString()),
        Duration.ofMinutes(1));
    if (info.exit() != 0) {
      throw new BadImage("the " + form + " image can't be read: " + info.lastLines());
    }
    JsonNode json = JsonMapper.builder().build().readTree(info.output());
    boolean others = json.has("backing-filename") || json.has("full-backing-filename");
    JsonNode extents = json.path("format-specific").path("data").path("extents");
    for (JsonNode extent : extents) {
      others |= !Path.of(extent.path("filename").asString())
          .toAbsolutePath()
          .equals(image.toAbsolutePath());
    }
    if (others) {
      throw new BadImage("the image takes parts of itself from another file, which is refused");
    }
  }

  /** One machine while it is watched. */
  private static final class Watching {
    private final QemuMonitor monitor;
    private final QemuClock clock;
    private final Start start;
    private final Path serial;
    private final Consumer<Screen> shown;
    private final Runnable stopIfCancelled;
    private final Deque<Screen> screens = new ArrayDeque<>();
    private final long begun = System.nanoTime();
    private byte[] before;
    private byte[] pictureBefore;
    private long changedAt;
    private boolean decisive;
    private int begin;

    Watching(
        Process process,
        Start start,
        Path serial,
        Consumer<Screen> shown,
        Runnable stopIfCancelled) {
      this.monitor = new QemuMonitor(process);
      this.clock = new QemuClock(monitor::port);
      this.start = start;
      this.serial = serial;
      this.shown = shown;
      this.stopIfCancelled = stopIfCancelled;
    }

    Watched watch() throws IOException {
      monitor.begin();
      while (true) {
        stopIfCancelled.run();
        clock.read();
        look();
        Ending ending = ending();
        if (ending != null) {
          return new Watched(
              "QEMU",
              new ArrayList<>(screens),
              serialText(),
              ending,
              clock.livedMs(),
              note(ending));
        }
        try {
          TimeUnit.MILLISECONDS.sleep(LOOK_EVERY_MS);
        } catch (InterruptedException e) {
          Thread.currentThread().interrupt();
          throw new EngineFailed("interrupted while the machine was watched", e);
        }
      }
    }

    private String note(Ending ending) {
      return switch (ending) {
        case NOT_DECIDED ->
          "this computer is too busy: in "
              + Wording.duration(Duration.ofNanos(System.nanoTime() - begun))
              + " the machine lived through "
              + Wording.duration(Duration.ofMillis(clock.livedMs()))
              + " only; try again when less goes on";
        case RESTARTED -> "it restarted itself";
        case OFF -> "it switched itself off";
        case HALTED -> "it reported that it panicked";
        case BUSY -> "it works without its screen changing";
        default -> "it waits, its screen unchanged";
      };
    }

    private Ending ending() throws EngineFailed {
      for (JsonNode event : monitor.events()) {
        String name = event.path("event").asString();
        String reason = event.path("data").path("reason").asString("");
        if (name.equals("SHUTDOWN") && event.path("data").path("guest").asBoolean(false)) {
          return reason.equals("guest-reset") ? Ending.RESTARTED : Ending.OFF;
        }
        if (name.equals("BLOCK_IO_ERROR") && event.path("data").path("nospace").asBoolean(false)) {
          throw new EngineFailed("no space is left for what the machine writes", null);
        }
        if (name.equals("GUEST_PANICKED")) {
          return Ending.HALTED;
        }
      }
      long still = clock.livedMs() - changedAt;
      boolean over = clock.livedMs() >= start.limit().toMillis();
      boolean settled = decisive ? still >= DECIDED_MS : still >= SETTLED_MS;
      if (!over && !settled) {
        boolean late =
            System.nanoTime() - begun >= start.limit().multipliedBy(WALL_LIMITS).toNanos();
        return late ? Ending.NOT_DECIDED : null;
      }
      return monitor.human("info registers").contains("HLT=1") ? Ending.WAITING : Ending.BUSY;
    }

    /** In every graphical mode the text memory reads as ones. */
    private void look() throws IOException {
      Path file = start.work().resolve("video");
      monitor.ask(
          "pmemsave", Map.of("val", VIDEO, "size", VIDEO_BYTES, "filename", file.toString()));
      byte[] video = Files.readAllBytes(file);
      boolean graphical = true;
      for (int i = 0; i < TextGrid.BYTES && graphical; i++) {
        graphical = video[i] == (byte) 0xff;
      }
      if (graphical) {
        byte[] picture = picture();
        if (!Arrays.equals(picture, pictureBefore)) {
          pictureBefore = picture;
          add(new Screen(clock.livedMs(), null, picture));
        }
      } else if (!Arrays.equals(video, before)) {
        byte[] cells = cells(video);
        before = video;
        List<String> lines = TextGrid.lines(cells);
        // A clock or a cursor that changes its colour is no new screen.
        if (screens.isEmpty() || !lines.equals(screens.getLast().lines())) {
          add(new Screen(clock.livedMs(), lines, picture()));
        }
      }
    }

    private void add(Screen screen) {
      screens.addLast(screen);
      if (screens.size() > SCREENS_KEPT) {
        screens.removeFirst();
      }
      changedAt = clock.livedMs();
      decisive = screen.lines() != null && start.decisive().test(screen.text());
      shown.accept(screen);
    }

    /** Systems scroll by moving where the screen begins in its memory, so that is asked for. */
    private byte[] cells(byte[] video) throws EngineFailed {
      boolean runs = monitor.ask("query-status", Map.of()).path("running").asBoolean(false);
      if (runs) {
        monitor.ask("stop", Map.of());
      }
      try {
        long saved = monitor.port("/b 0x3d4");
        int high = (int) monitor.port("/b 0x3d4.12");
        int low = (int) monitor.port("/b 0x3d4.13");
        monitor.human("o /b 0x3d4 " + saved);
        begin = (high << 8 | low) * 2;
      } finally {
        if (runs) {
          monitor.ask("cont", Map.of());
        }
      }
      byte[] cells = new byte[TextGrid.BYTES];
      for (int i = 0; i < cells.length; i++) {
        cells[i] = video[(begin + i) % VIDEO_BYTES];
      }
      return cells;
    }

    private byte[] picture() throws IOException {
      Path file = start.work().resolve("screen.png");
      monitor.ask("screendump", Map.of("filename", file.toString(), "format", "png"));
      return Files.readAllBytes(file);
    }

    private String serialText() throws IOException {
      if (!Files.exists(serial)) {
        return "";
      }
      try (var in = Files.newInputStream(serial)) {
        return new String(
            in.readNBytes(SERIAL_MAX_BYTES), java.nio.charset.StandardCharsets.ISO_8859_1);
      }
    }
  }
}
