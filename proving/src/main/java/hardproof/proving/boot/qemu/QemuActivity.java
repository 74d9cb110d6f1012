package hardproof.proving.boot.qemu;

import hardproof.core.wording.Wording;
import hardproof.proving.boot.BootEngine;
import hardproof.proving.boot.BootEngine.EngineFailed;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import tools.jackson.databind.JsonNode;

/**
 * Whether a machine in QEMU still gets on: by what it reads of its disk, what it says over its serial line,
 * and where its processor is. One that works is not at a standstill, however long its screen stays as it is.
 */
final class QemuActivity {
  private static final Pattern PLACE = Pattern.compile("[ER]IP=([0-9a-f]+)");
  private static final int SAMPLES_ENOUGH = 20;
  private static final int PLACES_OF_A_CIRCLE = 3;

  private final QemuMonitor monitor;
  private final Path serial;
  private final Set<String> places = new HashSet<>();
  private long reads;
  private long written;
  private long activeAt;
  private long readAt;
  private long serialAt;
  private boolean serialGrew;
  private int samples;
  private int halted;

  QemuActivity(QemuMonitor monitor, Path serial) {
    this.monitor = monitor;
    this.serial = serial;
  }

  /**
   * @param lived of the machine's own time, in milliseconds
   * @param changedAt when its screen changed last
   */
  void look(long lived, long changedAt) throws IOException {
    long disk = reads();
    long said = Files.exists(serial) ? Files.size(serial) : 0;
    serialGrew = said != written;
    if (disk != reads) {
      readAt = lived;
    }
    if (serialGrew) {
      serialAt = lived;
    }
    beginAnew(lived, changedAt, disk);
    reads = disk;
    written = said;
    sample();
  }

  private long reads() throws BootEngine.EngineFailed {
    long disk = 0;
    for (JsonNode device : monitor.ask("query-blockstats", Map.of())) {
      disk += device.path("stats").path("rd_operations").asLong(0);
    }
    return disk;
  }

  private void beginAnew(long lived, long changedAt, long disk) {
    if (disk != reads || serialGrew || changedAt > activeAt) {
      activeAt = lived;
      samples = 0;
      halted = 0;
      places.clear();
    }
  }

  private void sample() throws EngineFailed {
    String registers = monitor.human("info registers");
    samples++;
    if (registers.contains("HLT=1")) {
      halted++;
    } else {
      Matcher place = PLACE.matcher(registers);
      if (places.size() <= PLACES_OF_A_CIRCLE && place.find()) {
        places.add(place.group(1));
      }
    }
  }

  boolean serialGrew() {
    return serialGrew;
  }

  /** When something came over the serial line last. */
  long serialAt() {
    return serialAt;
  }

  /** For how long nothing was seen to happen. */
  long stillMs(long lived) {
    return lived - activeAt;
  }

  /** Its processor slept nearly every time that it was looked at. */
  boolean waits() {
    return halted * 5 >= samples * 4;
  }

  /** So often looked at since something happened that a circle can be told from work. */
  boolean lookedAtEnough() {
    return samples >= SAMPLES_ENOUGH;
  }

  /** Its processor never slept and was always at the same few places. */
  boolean inACircle() {
    return lookedAtEnough() && halted == 0 && places.size() <= PLACES_OF_A_CIRCLE;
  }

  /** What it was last seen to do. */
  String sentence() {
    if (reads == 0) {
      return "it never read its disk";
    }
    String read =
        "it read its disk last after " + Wording.duration(java.time.Duration.ofMillis(readAt));
    return serialAt <= readAt
        ? read
        : read + " and spoke last after " + Wording.duration(java.time.Duration.ofMillis(serialAt));
  }
}
