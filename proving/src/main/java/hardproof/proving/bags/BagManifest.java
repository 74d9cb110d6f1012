package hardproof.proving.bags;

import hardproof.proving.checksums.DigestKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/**
 * One manifest of a bag (RFC 8493, 2.1.3 and 2.2.1): a checksum and a path on each line.
 *
 * @param sums the checksum of each path in lower-case hex, in the order of paths
 * @param faults lines that are wrong, with their numbers; empty for a sound manifest
 */
public record BagManifest(Map<String, String> sums, List<String> faults) {
  /** Payload manifests name files below it; tag manifests name others. */
  public static final String PAYLOAD = "data/";

  /**
   * Reads a manifest.
   *
   * @param name its file name, for the faults
   * @param payload whether it lists the payload, or tag files
   */
  public static BagManifest parse(String name, String text, DigestKind kind, boolean payload) {
    Map<String, String> sums = new TreeMap<>();
    List<String> faults = new ArrayList<>();
    int number = 0;
    for (String line : text.split("\r\n|\n|\r")) {
      number++;
      if (line.isBlank()) {
        continue;
      }
      String[] parts = line.split("[ \t]+\\*?", 2);
      boolean digest = parts[0].matches("[0-9a-fA-F]{" + kind.hexLength() + "}");
      if (parts.length < 2 || !digest) {
        faults.add(name + ", line " + number + ", is not a " + kind.algorithm() + " and a path");
        continue;
      }
      String path = decoded(parts[1].startsWith("./") ? parts[1].substring(2) : parts[1]);
      boolean inside = !path.startsWith("/")
          && !path.startsWith("~")
          && !List.of(path.split("[/\\\\]")).contains("..");
      if (!inside || payload != path.startsWith(PAYLOAD)) {
        faults.add(name + ", line " + number + ", names " + path + ", which is not "
            + (payload ? "below data/" : "a tag file of the bag"));
      } else if (sums.put(path, parts[0].toLowerCase(Locale.ROOT)) != null) {
        faults.add(name + ", line " + number + ", names " + path + " again");
      }
    }
    return new BagManifest(sums, faults);
  }

  /** Decodes a path of a manifest: %0A, %0D and %25 (RFC 8493, 2.1.3). */
  private static String decoded(String path) {
    return path.replaceAll("(?i)%0a", "\n").replaceAll("(?i)%0d", "\r").replace("%25", "%");
  }
}
