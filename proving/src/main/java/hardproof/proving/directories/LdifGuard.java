package hardproof.proving.directories;

import java.io.BufferedReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * Looks through LDIF for values that name a place elsewhere ({@code attribute:< file:///…}, RFC 2849):
 * whoever reads such a value reads that file. Lines that are folded are put together first.
 */
final class LdifGuard {
  private LdifGuard() {}

  /** The number of the first line that begins such a value; 0 when there is none. */
  static int lineThatLeadsOut(Path ldif) throws IOException {
    try (BufferedReader lines = Files.newBufferedReader(ldif, StandardCharsets.ISO_8859_1)) {
      String whole = "";
      int begun = 0;
      int number = 0;
      String line;
      while ((line = lines.readLine()) != null) {
        number++;
        if (line.startsWith(" ")) {
          // Only the beginning of a value tells, so long values are not kept.
          whole = whole.length() < 4096 ? whole + line.substring(1) : whole;
          continue;
        }
        if (leadsOut(whole)) {
          return begun;
        }
        whole = line;
        begun = number;
      }
      return leadsOut(whole) ? begun : 0;
    }
  }

  private static boolean leadsOut(String line) {
    int colon = line.indexOf(':');
    return colon > 0
        && !line.startsWith("#")
        && colon + 1 < line.length()
        && line.charAt(colon + 1) == '<';
  }
}
