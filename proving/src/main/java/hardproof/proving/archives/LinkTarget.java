package hardproof.proving.archives;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;

/**
 * Goes the way that a system goes when it follows a link (POSIX, "Pathname Resolution"), by the list of
 * links alone; nothing on the disk is followed.
 */
public final class LinkTarget {
  /** So many links a system follows before it gives up (Linux, MAXSYMLINKS). */
  private static final int MOST_LINKS = 40;

  private final Map<String, SpecialEntry> specials;

  public LinkTarget(Map<String, SpecialEntry> specials) {
    this.specials = specials;
  }

  /** The path that a path leads to, whether something is there or not; null when it leads out. */
  public String of(String path) {
    Deque<String> ahead = new ArrayDeque<>(List.of(path.split("/")));
    List<String> at = new ArrayList<>();
    int followed = 0;
    while (!ahead.isEmpty()) {
      String name = ahead.pop();
      if (name.isEmpty() || name.equals(".")) {
        continue;
      }
      if (name.equals("..")) {
        if (at.isEmpty()) {
          return null;
        }
        at.remove(at.size() - 1);
        continue;
      }
      at.add(name);
      SpecialEntry special = specials.get(String.join("/", at));
      if (special != null && special.kind() == ArchiveEntry.Kind.LINK) {
        at.remove(at.size() - 1);
        if (special.target().startsWith("/") || ++followed > MOST_LINKS) {
          return null;
        }
        List<String> parts = List.of(special.target().split("/"));
        for (int i = parts.size() - 1; i >= 0; i--) {
          ahead.push(parts.get(i));
        }
      }
    }
    return String.join("/", at);
  }
}
