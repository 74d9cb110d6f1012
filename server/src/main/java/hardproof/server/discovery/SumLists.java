package hardproof.server.discovery;

import hardproof.proving.stores.ArtifactStore;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** SHA-256 that lie beside artifacts, as {@code sha256sum} writes them: of one in {@code NAME.sha256}, of many in a list. */
final class SumLists {
  private static final int LARGEST = 1 << 20;
  private static final Pattern LINE =
      Pattern.compile("(?m)^\\\\?([0-9a-fA-F]{64})(?: [ *](.+))?\\s*$");

  private final ArtifactStore store;
  private final Map<String, Map<String, String>> lists = new HashMap<>();

  SumLists(ArtifactStore store) {
    this.store = store;
  }

  /**
   * @param there places of lists and sums that there are
   * @return null where none is said, or it can't be read
   */
  @Nullable
  String of(String place, java.util.Set<String> there) {
    String beside = place + ".sha256";
    String name = place.substring(place.lastIndexOf('/') + 1);
    if (there.contains(beside)) {
      Map<String, String> sums = read(beside);
      String own = sums.get(name);
      return own != null ? own : sums.size() == 1 ? sums.values().iterator().next() : null;
    }
    String folder = place.substring(0, place.lastIndexOf('/') + 1);
    for (String list : List.of("SHA256SUMS", "sha256sums", "SHA256SUMS.txt", "sha256sums.txt")) {
      if (there.contains(folder + list)) {
        return lists.computeIfAbsent(folder + list, this::read).get(name);
      }
    }
    return null;
  }

  private Map<String, String> read(String place) {
    Map<String, String> sums = new HashMap<>();
    try (InputStream in = store.open(place)) {
      String text = new String(in.readNBytes(LARGEST), StandardCharsets.UTF_8);
      for (Matcher m = LINE.matcher(text); m.find(); ) {
        String named = m.group(2) == null ? "" : m.group(2).strip();
        sums.put(named.substring(named.lastIndexOf('/') + 1), m.group(1).toLowerCase(Locale.ROOT));
      }
    } catch (IOException e) {
      return Map.of(); // Without it there is nothing to compare with, and nothing else is said.
    }
    return sums;
  }
}
