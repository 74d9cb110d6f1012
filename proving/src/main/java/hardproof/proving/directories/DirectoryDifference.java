package hardproof.proving.directories;

import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.Entry;
import hardproof.core.wording.Wording;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * How entries differ from those of an older point.
 *
 * @param gone entries that only the older one has
 * @param added entries that only the newer one has
 * @param lost attributes of entries in both that only the older one has, as {@code dn: attribute}
 * @param gained the other way round
 * @param changed attributes with other values
 */
public record DirectoryDifference(
    List<String> gone,
    List<String> added,
    List<String> lost,
    List<String> gained,
    List<String> changed) {

  static DirectoryDifference of(Map<DN, Entry> older, Map<DN, Entry> newer) {
    List<String> gone = new ArrayList<>();
    List<String> lost = new ArrayList<>();
    List<String> gained = new ArrayList<>();
    List<String> changed = new ArrayList<>();
    older.forEach((dn, before) -> {
      Entry now = newer.get(dn);
      if (now == null) {
        gone.add(dn.toString());
        return;
      }
      for (Attribute attribute : before.getAttributes()) {
        Attribute other = now.getAttribute(attribute.getName());
        if (other == null) {
          lost.add(dn + ": " + attribute.getName());
        } else if (!other.equals(attribute)) {
          changed.add(dn + ": " + attribute.getName());
        }
      }
      for (Attribute attribute : now.getAttributes()) {
        if (!before.hasAttribute(attribute.getName())) {
          gained.add(dn + ": " + attribute.getName());
        }
      }
    });
    List<String> added = new ArrayList<>();
    newer.keySet().stream()
        .filter(dn -> !older.containsKey(dn))
        .forEach(dn -> added.add(dn.toString()));
    return new DirectoryDifference(gone, added, lost, gained, changed);
  }

  /** For people: what differs from the point before. */
  public String sentence() {
    List<String> parts = new ArrayList<>();
    part(parts, gone, "entry gone", "entries gone");
    part(parts, added, "entry added", "entries added");
    part(parts, lost, "attribute lost", "attributes lost");
    part(parts, gained, "attribute added", "attributes added");
    part(parts, changed, "attribute changed", "attributes changed");
    return parts.isEmpty()
        ? "every entry as in the point before"
        : "against the point before: " + String.join("; ", parts);
  }

  private static void part(List<String> parts, List<String> names, String one, String many) {
    if (!names.isEmpty()) {
      parts.add(Wording.count(names.size(), one, many) + " ("
          + String.join(", ", names.subList(0, Math.min(3, names.size())))
          + (names.size() > 3 ? ", …" : "") + ")");
    }
  }
}
