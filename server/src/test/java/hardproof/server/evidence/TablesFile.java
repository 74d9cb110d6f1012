package hardproof.server.evidence;

import hardproof.proving.bags.BagWriter.Body;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** The tables of a pack as bytes. */
final class TablesFile {
  private TablesFile() {}

  static byte[] of(FactsJson facts) throws IOException {
    Path file = Files.createTempFile("facts-", ".sqlite");
    try {
      return Files.readAllBytes(FactsTables.make(facts, file));
    } finally {
      Files.delete(file);
    }
  }

  static Body body(FactsJson facts) throws IOException {
    return Body.of(of(facts));
  }
}
