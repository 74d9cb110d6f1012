package hardproof.proving.boot.qemu;

import hardproof.core.wording.Wording;
import hardproof.proving.boot.BootEngine;
import hardproof.proving.boot.BootEngine.BadImage;
import hardproof.proving.boot.BootEngine.EngineFailed;
import hardproof.proving.boot.BootEngine.Start;
import hardproof.proving.boot.Ending;
import hardproof.proving.boot.Ocr;
import hardproof.proving.boot.Screen;
import hardproof.proving.boot.Watched;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** Watches one machine in QEMU until it has settled: looks at its screen again and again, and at its clock. */
final class QemuWatch {
  private static final int SERIAL_MAX_BYTES = 256 << 10;
  private static final long LOOK_EVERY_MS = 150;

  /** What a disk in one file needs, and what the machine's own writes go through. */
  private static final Set<String> DRIVERS = Set.of("raw", "qcow2", "file");

  /** By the clock on the wall a machine may take so many times its limit. */
  static final int WALL_LIMITS = 5;

  /** So long a screen that decides must have stood still. */
  private static final long DECIDED_MS = 4_000;

  /** So long any screen must have stood still to be taken for the last one. */
  private static final long SETTLED_MS = 30_000;

  private static final int RESET_LOOKS = 100;

  /** So soon firmware resets once more by itself after a restart, to begin as if it was switched on. */
  private static final long FIRMWARE_RESETS_MS = 2_000;

  private final QemuMonitor monitor;
  private final QemuClock clock;
  private final Start start;
  private final Path serial;
  private final QemuScreen screen;
  private final Runnable stopIfCancelled;
  private final long begun = System.nanoTime();
  private final QemuActivity activity;
  private long restartedAt = -1;
  private boolean nextEnds;
  private int eventsSeen;
  private boolean serialDecisive;

  /**
   * @param ocr null where pictures can't be read
   */
  QemuWatch(
      Process process,
      Start start,
      Path serial,
      Ocr ocr,
      Consumer<Screen> shown,
      Runnable stopIfCancelled) {
    this.monitor = new QemuMonitor(process);
    this.clock = new QemuClock(monitor::port);
    this.start = start;
    this.serial = serial;
    this.activity = new QemuActivity(monitor, serial);
    this.screen = new QemuScreen(monitor, clock, start, ocr, shown);
    this.stopIfCancelled = stopIfCancelled;
  }

  Watched watch(BootEngine.@Nullable Keeping keeping) throws IOException {
    monitor.begin();
    refuseOtherFiles();
    monitor.ask("cont", Map.of());
    while (true) {
      look();
      Ending ending = ending();
      if (ending != null) {
        return ending == Ending.WAITING && keeping != null
            ? watched(goOn(keeping))
            : watched(ending);
      }
      pause();
    }
  }

  /** It is up: from now on whatever ends it is an end, a restart too. */
  private Ending goOn(BootEngine.Keeping keeping) throws IOException {
    keeping.settled(watched(Ending.WAITING));
    endWithTheNextReset();
    while (keeping.wanted(LOOK_EVERY_MS)) {
      look();
      List<JsonNode> events = monitor.events();
      for (; eventsSeen < events.size(); eventsSeen++) {
        Ending ending = endingOfOneThatWasUp(events.get(eventsSeen));
        if (ending != null) {
          return ending;
        }
      }
    }
    return Ending.WAITING;
  }

  private static @Nullable Ending endingOfOneThatWasUp(JsonNode event) {
    JsonNode data = event.path("data");
    return switch (event.path("event").asString()) {
      case "SHUTDOWN" ->
        !data.path("guest").asBoolean(false)
            ? null
            : data.path("reason").asString("").equals("guest-reset")
                ? Ending.RESTARTED
                : Ending.OFF;
      case "GUEST_PANICKED" -> Ending.HALTED;
      default -> null;
    };
  }

  private void look() throws IOException {
    stopIfCancelled.run();
    clock.read();
    screen.look();
    activity.look(clock.livedMs(), screen.changedAt());
    screen.readPicture();
    readSerial();
  }

  private Watched watched(Ending ending) throws IOException {
    return new Watched(
        "QEMU",
        screen.kept(),
        serialText(),
        clock.livedMs() - activity.serialAt(),
        ending,
        clock.livedMs(),
        note(ending));
  }

  private static void pause() throws BootEngine.EngineFailed {
    try {
      TimeUnit.MILLISECONDS.sleep(LOOK_EVERY_MS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new EngineFailed("interrupted while the machine was watched", e);
    }
  }

  /** Nothing of the machine has run yet: whatever else QEMU has opened, the image made it open. */
  private void refuseOtherFiles() throws IOException {
    for (JsonNode node : monitor.ask("query-named-block-nodes", Map.of())) {
      String driver = node.path("drv").asString();
      if (!DRIVERS.contains(driver)) {
        throw new BadImage("the image is read by the driver " + driver + ", which is refused");
      }
    }
    for (JsonNode device : monitor.ask("query-block", Map.of())) {
      JsonNode image = device.path("inserted").path("image");
      // The first backing file is the image itself, below what the machine writes.
      if (image.path("backing-image").has("backing-image")) {
        throw new BadImage("the image takes parts of itself from another file, which is refused");
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
      case BUSY -> "it runs in a circle";
      case WORKING ->
        "it still worked when its " + Wording.duration(start.limit()) + " were over ("
            + activity.sentence() + "): give it more time";
      default -> "it waits, its screen unchanged";
    };
  }

  private Ending ending() throws EngineFailed {
    List<JsonNode> events = monitor.events();
    for (; eventsSeen < events.size(); eventsSeen++) {
      Ending ending = ending(events.get(eventsSeen));
      if (ending != null) {
        return ending;
      }
    }
    long lived = clock.livedMs();
    if (restartedAt >= 0 && lived - restartedAt > FIRMWARE_RESETS_MS) {
      endWithTheNextReset();
    }
    if (screen.decisive() && lived - screen.changedAt() >= DECIDED_MS
        || serialDecisive && lived - activity.serialAt() >= DECIDED_MS) {
      return Ending.WAITING;
    }
    Ending seen =
        activity.waits() ? Ending.WAITING : activity.inACircle() ? Ending.BUSY : Ending.WORKING;
    // A busy computer looks at it too seldom to tell: a few more looks, after its time was over.
    boolean untold = seen == Ending.WORKING
        && activity.stillMs(lived) >= DECIDED_MS
        && !activity.lookedAtEnough();
    if (lived >= start.limit().toMillis() && !untold
        || seen != Ending.WORKING && activity.stillMs(lived) >= SETTLED_MS) {
      return seen;
    }
    boolean late =
        System.nanoTime() - begun >= start.limit().multipliedBy(WALL_LIMITS).toNanos();
    return late ? Ending.NOT_DECIDED : null;
  }

  private Ending ending(JsonNode event) throws EngineFailed {
    JsonNode data = event.path("data");
    boolean guest = data.path("guest").asBoolean(false);
    switch (event.path("event").asString()) {
      case "SHUTDOWN" -> {
        if (!guest) {
          return null;
        }
        if (!data.path("reason").asString("").equals("guest-reset")) {
          return Ending.OFF;
        }
        if (restartedAt >= 0) {
          return Ending.RESTARTED;
        }
        restartOnce();
      }
      case "RESET" -> {
        if (guest) {
          endWithTheNextReset();
        }
      }
      case "BLOCK_IO_ERROR" -> {
        if (data.path("nospace").asBoolean(false)) {
          throw new EngineFailed("no space is left for what the machine writes", null);
        }
      }
      case "GUEST_PANICKED" -> {
        return Ending.HALTED;
      }
      default -> {
        // It says nothing of what the machine came to.
      }
    }
    return null;
  }

  /** After a restore a system may start anew once, when it has set itself right. */
  private void restartOnce() throws EngineFailed {
    // A reset of ours, and those of firmware, would end it too, as long as every reset does.
    monitor.ask("set-action", Map.of("reboot", "reset"));
    monitor.ask("system_reset", Map.of());
    untilItIsReset();
    monitor.goOn();
    restartedAt = clock.livedMs();
    serialDecisive = false;
    screen.beginAnew();
  }

  /** From now on a reset ends it, its last screen still to be seen. */
  private void endWithTheNextReset() throws EngineFailed {
    if (!nextEnds) {
      nextEnds = true;
      monitor.ask("set-action", Map.of("reboot", "shutdown"));
    }
  }

  /** The reset is only asked for above; a machine that is let go on before it was carried out stays ended. */
  private void untilItIsReset() throws EngineFailed {
    for (int i = 0; i < RESET_LOOKS; i++) {
      String status = monitor.ask("query-status", Map.of()).path("status").asString("");
      if (!status.equals("shutdown")) {
        return;
      }
      try {
        TimeUnit.MILLISECONDS.sleep(LOOK_EVERY_MS / 10);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new EngineFailed("interrupted while the machine was reset", e);
      }
    }
  }

  private void readSerial() throws IOException {
    if (activity.serialGrew()) {
      serialDecisive = start.decisive().test(serialText());
    }
  }

  /** Without what steers a terminal (ECMA-48): where it moves the cursor, a new line begins. */
  static String plain(String serial) {
    return serial
        .replaceAll("\u001b\\[[0-9;?]*[Hf]", "\n")
        .replaceAll("\u001b\\[[0-9;?]*[ -/]*[@-~]", "")
        .replaceAll("\u001b[()][0-9A-Za-z]|\u001b[=>78cM]", "")
        .replace("\r\n", "\n");
  }

  private String serialText() throws IOException {
    if (!Files.exists(serial)) {
      return "";
    }
    try (var in = Files.newInputStream(serial)) {
      String text = new String(in.readNBytes(SERIAL_MAX_BYTES), StandardCharsets.ISO_8859_1);
      return plain(text);
    }
  }
}
