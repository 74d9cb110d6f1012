package hardproof.proving.directories;

import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.Entry;
import hardproof.core.wording.Wording;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Whether entries are all there, as far as a format without an end mark lets it be told. */
final class LdifWholeness {
  /** Every entry that a server writes out has them, at its end (RFC 4512, 3.4; OpenLDAP). */
  private static final List<String> AT_THE_END = List.of(
      "structuralObjectClass",
      "entryUUID",
      "creatorsName",
      "createTimestamp",
      "entryCSN",
      "modifiersName",
      "modifyTimestamp");

  private final Path ldif;
  private final Map<DN, Entry> entries;

  /**
   * @param entries in the order of the file
   */
  LdifWholeness(Path ldif, Map<DN, Entry> entries) {
    this.ldif = ldif;
    this.entries = entries;
  }

  /**
   * @throws RestoredDirectory.Unloadable saying what is lost
   */
  void check() throws RestoredDirectory.Unloadable, IOException {
    String lost = lostEnd();
    if (lost == null) {
      lost = lostSearchEnd();
    }
    if (lost == null) {
      lost = lostAttributes();
    }
    if (lost == null) {
      lost = lostParents();
    }
    if (lost != null) {
      throw new RestoredDirectory.Unloadable(lost, null);
    }
  }

  /** Every line ends (RFC 2849, "attrval-spec"); one that does not was cut off. */
  private String lostEnd() throws IOException {
    try (RandomAccessFile file = new RandomAccessFile(ldif.toFile(), "r")) {
      file.seek(file.length() - 1);
      int last = file.read();
      return last == '\n' || last == '\r' ? null : "it ends in the middle of a line: it is cut off";
    }
  }

  /** ldapsearch, asked for comments, says first what it looks for, and last that it has ended. */
  private String lostSearchEnd() throws IOException {
    boolean begun = false;
    boolean ended = false;
    try (BufferedReader lines = Files.newBufferedReader(ldif, StandardCharsets.ISO_8859_1)) {
      String line;
      while ((line = lines.readLine()) != null) {
        begun |= line.startsWith("# requesting: ");
        ended |= line.equals("# search result");
      }
    }
    return begun && !ended ? "the search that it comes from did not end: it is cut off" : null;
  }

  /** The last entry lacks what all others have at their end. */
  private String lostAttributes() {
    List<Entry> all = List.copyOf(entries.values());
    if (all.size() < 3) {
      return null;
    }
    Entry last = all.get(all.size() - 1);
    for (String attribute : AT_THE_END) {
      boolean others = all.stream().limit(all.size() - 1L).allMatch(e -> e.hasAttribute(attribute));
      if (others && !last.hasAttribute(attribute)) {
        return "its last entry, " + last.getDN() + ", lacks " + attribute
            + ", which all others have: it is cut off";
      }
    }
    return null;
  }

  /** Kept by some servers below the name of an entry that was deleted, so that others learn of it. */
  private static boolean deleted(Entry entry) {
    return entry.hasAttributeValue("objectClass", "nsTombstone");
  }

  /** Entries below one that is not there, while others above or beside it are. */
  private String lostParents() throws RestoredDirectory.Unloadable {
    Map<DN, List<DN>> below = new LinkedHashMap<>();
    List<DN> orphans = new ArrayList<>();
    try {
      findOrphans(below, orphans);
    } catch (RuntimeException e) {
      throw new RestoredDirectory.Unloadable("a name of an entry can't be read (RFC 4514)", e);
    }
    addChildren(below, orphans);
    if (orphans.isEmpty()) {
      return null;
    }
    return Wording.count(orphans.size(), "entry lacks its parent", "entries lack their parent")
        + ", which is not in it: " + orphans.get(0) + " for example";
  }

  private void findOrphans(Map<DN, List<DN>> below, List<DN> orphans) {
    for (DN dn : entries.keySet()) {
      DN parent = dn.getParent();
      if (parent == null || entries.containsKey(parent) || deleted(entries.get(dn))) {
        continue;
      }
      below.computeIfAbsent(parent, p -> new ArrayList<>()).add(dn);
      for (DN above = parent.getParent(); above != null; above = above.getParent()) {
        if (entries.containsKey(above)) {
          orphans.add(dn);
          break;
        }
      }
    }
  }

  private static void addChildren(Map<DN, List<DN>> below, List<DN> orphans) {
    below.forEach((parent, children) -> {
      if (children.size() > 1) {
        children.stream().filter(c -> !orphans.contains(c)).forEach(orphans::add);
      }
    });
  }
}
