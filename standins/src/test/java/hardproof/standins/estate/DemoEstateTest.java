package hardproof.standins.estate;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.proving.checksums.Sha256;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DemoEstateTest {
  private static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");

  @TempDir
  Path folder;

  private static Map<String, String> digests(Path root) throws IOException {
    Map<String, String> digests = new TreeMap<>();
    try (Stream<Path> files = Files.walk(root)) {
      for (Path file : files.filter(Files::isRegularFile).toList()) {
        digests.put(root.relativize(file).toString(), Sha256.of(file));
      }
    }
    return digests;
  }

  @Test
  void theSameSeedAndInstantGiveTheSameFactsAndBytes() throws IOException {
    // The same folder both times, because the path of a store is one of its facts.
    DemoEstate first = DemoEstate.make(folder.resolve("s"), NOW, 5);
    Map<String, String> bytes = digests(folder.resolve("s"));
    DemoEstate second = DemoEstate.make(folder.resolve("s"), NOW, 5);
    assertThat(second.deliveries()).isEqualTo(first.deliveries());
    assertThat(second.drills()).isEqualTo(first.drills());
    assertThat(digests(folder.resolve("s"))).isEqualTo(bytes);
  }

  @Test
  void itIsLaidBeforeItsInstantAndInOrder() throws IOException {
    DemoEstate demo = DemoEstate.make(folder, NOW, 6);
    assertThat(demo.deliveries())
        .isSortedAccordingTo(java.util.Comparator.comparing(DemoEstate.Delivery::received));
    assertThat(demo.deliveries()).allSatisfy(d -> assertThat(d.received()).isBeforeOrEqualTo(NOW));
    assertThat(demo.drills()).allSatisfy(d -> assertThat(d.at()).isBefore(NOW));
    try (Stream<Path> files = Files.walk(folder)) {
      assertThat(files
              .filter(Files::isRegularFile)
              .mapToLong(f -> f.toFile().length())
              .sum())
          .as("a demo must stay small")
          .isLessThan(60_000_000L);
    }
  }
}
