package hardproof.core.discovery;

import hardproof.core.discovery.Discovery.Thing;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Folders whose names say a time and that are backups as a whole, as whatever copies files one by one leaves them. A
 * folder that only keeps archives of one day together is none.
 */
final class DatedFolders {
  /** What lies at the top of a whole system: a folder that has one of them is that system, not several of them. */
  private static final Set<String> SYSTEM = Set.of(
      "bin",
      "boot",
      "etc",
      "home",
      "lib",
      "opt",
      "root",
      "srv",
      "usr",
      "var",
      "Users",
      "Windows",
      "Program Files");

  /** What makes a folder one artifact whatever else is in it: a bag (RFC 8493), a dump of PostgreSQL in a folder. */
  private static final Set<String> MARKS = Set.of("bagit.txt", "toc.dat");

  private final Set<String> formats;

  /** Of all folders that are called alike, what lies in them. */
  private static final class Alike {
    private final Set<String> folders = new HashSet<>();
    private final Set<String> deep = new HashSet<>();
    private final Map<String, Set<String>> below = new HashMap<>();
    private boolean direct;
    private boolean marked;
    private long files;
    private long artifacts;

    /** Each holds files of its own rather than archives of somebody's. */
    boolean whole() {
      boolean apart = artifacts == 0 && files >= 2L * folders.size();
      return marked || artifacts * 2 < files && (deep.size() * 2 >= folders.size() || apart);
    }

    /** Each holds a folder for each of whom it is of. */
    boolean ofSeveral() {
      return !direct
          && below.keySet().stream().noneMatch(SYSTEM::contains)
          && below.values().stream().anyMatch(f -> f.size() * 2 > folders.size());
    }
  }

  private DatedFolders(Set<String> formats) {
    this.formats = formats;
  }

  /**
   * The same things, where what lies in such a folder is one thing with a / at the end of its place: as large as all of
   * it, and as new as the newest.
   *
   * @param formats what artifacts may end with, without the dot
   */
  static List<Thing> joined(List<Thing> things, Set<String> formats) {
    return new DatedFolders(formats).joined(things);
  }

  private List<Thing> joined(List<Thing> things) {
    Map<String, Alike> alike = new HashMap<>();
    for (Thing thing : things) {
      String folder = folder(thing.place());
      if (folder != null) {
        count(alike.computeIfAbsent(key(folder), k -> new Alike()), folder, thing.place());
      }
    }
    Set<String> whole = keys(alike, Alike::whole);
    Set<String> several = keys(alike, a -> a.whole() && a.ofSeveral());
    Map<String, Thing> all = new LinkedHashMap<>();
    for (Thing thing : things) {
      String folder = folder(thing.place());
      String key = folder == null ? null : key(folder);
      if (key == null || !whole.contains(key)) {
        all.put(thing.place(), thing);
      } else {
        boolean deeper = several.contains(key) && !namedItself(folder);
        String place = deeper ? next(thing.place(), folder) : folder + "/";
        all.merge(place, new Thing(place, thing.size(), thing.modified()), Thing::with);
      }
    }
    return new ArrayList<>(all.values());
  }

  private static Set<String> keys(Map<String, Alike> alike, Predicate<Alike> which) {
    return alike.entrySet().stream()
        .filter(e -> which.test(e.getValue()))
        .map(Map.Entry::getKey)
        .collect(Collectors.toSet());
  }

  private void count(Alike alike, String folder, String place) {
    String inner = place.substring(folder.length() + 1);
    int slash = inner.indexOf('/');
    alike.folders.add(folder);
    alike.files++;
    alike.direct |= slash < 0;
    alike.marked |= MARKS.contains(inner);
    if (slash >= 0) {
      alike.deep.add(folder);
      alike
          .below
          .computeIfAbsent(inner.substring(0, slash), k -> new HashSet<>())
          .add(folder);
    }
    boolean tells = Discovery.tellsOfAnother(place);
    alike.artifacts += tells || Discovery.format(place, formats) != null ? 1 : 0;
  }

  /** The first folder on the way to a place whose name says a time; null where none does. */
  private static @Nullable String folder(String place) {
    int from = 0;
    for (int slash = place.indexOf('/'); slash >= 0; slash = place.indexOf('/', from)) {
      if (TimeStyle.last(place.substring(from, slash)) != null) {
        return place.substring(0, slash);
      }
      from = slash + 1;
    }
    return null;
  }

  /** What belongs together: the same around their names. */
  private static String key(String folder) {
    return Shape.of(folder, Set.of()).key();
  }

  /** Whether the name that says the time says more: whose it is. */
  private static boolean namedItself(String folder) {
    String name = folder.substring(folder.lastIndexOf('/') + 1);
    return !Shape.of(name, Set.of()).names().isEmpty();
  }

  private static String next(String place, String folder) {
    return place.substring(0, place.indexOf('/', folder.length() + 1) + 1);
  }
}
