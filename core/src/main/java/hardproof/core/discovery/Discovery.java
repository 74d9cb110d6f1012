package hardproof.core.discovery;

import hardproof.core.estate.Kind;
import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** Reads names on a store as patterns, with what each of them comes to. Pure. */
public final class Discovery {
  private static final List<String> SUMS = List.of(
      ".sha256", ".sha512", ".sha1", ".md5", ".mtree", ".asc", ".sig", "sha256sums", "md5sums");

  private static final int SHOWN = 12;
  private static final String FOLDER = "folder";

  /** Of names that are each another, in so many files, none says whose they are. */
  private static final int MANY = 12;

  private Discovery() {}

  /** A file on a store, or a whole folder, whose place ends with a /. */
  public record Thing(String place, long size, Instant modified) {
    /** Both together, under the place of the first: as large as both, as new as the newer. */
    public Thing with(Thing other) {
      return new Thing(
          place, size + other.size, modified.isAfter(other.modified) ? modified : other.modified);
    }
  }

  /**
   * What belongs to one pattern.
   *
   * @param pattern as {@link PlacePattern} reads it
   * @param files how many, or how many folders
   * @param format as copies have it; null where the ending says none that is known
   * @param kind guessed by the format
   * @param every the usual time between two of a resource; null where there are too few
   * @param sample a few of its places, the newest first
   */
  public record Series(
      String pattern,
      boolean ofFolders,
      @Nullable String format,
      Kind kind,
      int files,
      List<String> resources,
      Instant first,
      Instant last,
      @Nullable Duration every,
      boolean timeOfName,
      boolean formOfName,
      List<String> sample) {}

  /**
   * What was made of all names.
   *
   * @param lists files that hold checksums or signatures of others
   * @param rest places that fit into no pattern, a few of {@code unfit}
   */
  public record Discovered(
      int files, int lists, int unfit, List<Series> series, List<String> rest) {}

  /** Whether a file only says something of another, by its name. */
  public static boolean tellsOfAnother(String place) {
    String small = place.toLowerCase(Locale.ROOT);
    return SUMS.stream().anyMatch(small::endsWith);
  }

  /**
   * As {@link #of}, of a store that can be listed again: folders that are backups as a whole are found too.
   */
  public static Discovered withFolders(List<Thing> things, Set<String> formats, ZoneId zone) {
    return of(DatedFolders.joined(things, formats), formats, zone);
  }

  /**
   * @param formats what artifacts may end with, without the dot
   * @param zone of times in names that don't say theirs
   */
  public static Discovered of(List<Thing> things, Set<String> formats, ZoneId zone) {
    List<Thing> artifacts =
        things.stream().filter(t -> !tellsOfAnother(t.place())).toList();
    Map<String, List<Thing>> alike = new LinkedHashMap<>();
    Map<String, List<Shape>> shapes = new TreeMap<>();
    for (Thing thing : artifacts) {
      Shape shape = Shape.of(thing.place(), formats);
      alike.computeIfAbsent(shape.key(), k -> new ArrayList<>()).add(thing);
      shapes.computeIfAbsent(shape.key(), k -> new ArrayList<>()).add(shape);
    }
    List<Series> series = new ArrayList<>();
    List<String> rest = new ArrayList<>();
    for (Map.Entry<String, List<Thing>> e : alike.entrySet()) {
      Series one = series(shapes.get(e.getKey()), e.getValue(), formats, zone);
      if (one == null) {
        e.getValue().forEach(t -> rest.add(t.place()));
      } else {
        series.add(one);
      }
    }
    series.sort(Comparator.comparingInt(Series::files).reversed().thenComparing(Series::pattern));
    Collections.sort(rest);
    return new Discovered(
        artifacts.size(),
        things.size() - artifacts.size(),
        rest.size(),
        series,
        List.copyOf(rest.subList(0, Math.min(SHOWN, rest.size()))));
  }

  /**
   * The same by patterns that a person wrote: each file belongs to the first that it fits.
   *
   * @param formats as {@link #of}
   */
  public static Discovered by(
      List<PlacePattern> patterns, List<Thing> things, Set<String> formats, ZoneId zone) {
    Map<PlacePattern, Map<String, Thing>> fitting = new LinkedHashMap<>();
    patterns.forEach(p -> fitting.put(p, new LinkedHashMap<>()));
    List<String> rest = new ArrayList<>();
    int artifacts = 0;
    for (Thing thing : things) {
      PlacePattern fits = patterns.stream()
          .filter(p -> p.ofFolders() || !tellsOfAnother(thing.place()))
          .filter(p -> p.of(thing.place(), zone) != null)
          .findFirst()
          .orElse(null);
      if (fits != null) {
        artifacts++;
        String place =
            fits.ofFolders() ? fits.of(thing.place(), zone).artifact() + "/" : thing.place();
        fitting
            .get(fits)
            .merge(place, new Thing(place, thing.size(), thing.modified()), Thing::with);
      } else if (!tellsOfAnother(thing.place())) {
        artifacts++;
        rest.add(thing.place());
      }
    }
    List<Series> series = new ArrayList<>();
    fitting.forEach((pattern, own) -> {
      if (!own.isEmpty()) {
        List<Thing> all = List.copyOf(own.values());
        series.add(series(pattern, all, format(all.get(0).place(), formats), zone));
      }
    });
    Collections.sort(rest);
    return new Discovered(
        artifacts,
        things.size() - artifacts,
        rest.size(),
        series,
        List.copyOf(rest.subList(0, Math.min(SHOWN, rest.size()))));
  }

  private static @Nullable Series series(
      List<Shape> shapes, List<Thing> things, Set<String> formats, ZoneId zone) {
    Shape first = shapes.get(0);
    if (first.names().isEmpty()) {
      return null;
    }
    List<@Nullable String> meaning = meaning(shapes);
    PlacePattern pattern;
    try {
      pattern = PlacePattern.of(first.pattern(meaning));
    } catch (WrongValue e) {
      return null; // Longer than a pattern may be, or with more that differs: for a person to say.
    }
    String format = format(things.get(0).place(), formats);
    // One file alone that says no time, and is of no format, is a file and no series of backups.
    if (!pattern.saysTime() && format == null) {
      return null;
    }
    return series(pattern, things, format, zone);
  }

  /** Which names differ from file to file; where none does, the last one is whose backups they are. */
  private static List<@Nullable String> meaning(List<Shape> shapes) {
    int names = shapes.get(0).names().size();
    List<@Nullable String> meaning = new ArrayList<>();
    boolean any = false;
    for (int i = 0; i < names; i++) {
      int at = i;
      long different = shapes.stream().map(s -> s.names().get(at)).distinct().count();
      boolean random = names > 1 && shapes.size() >= MANY && different > shapes.size() / 2;
      meaning.add(different == 1 ? null : random ? "{any}" : "{resource}");
      any |= different > 1 && !random;
    }
    if (!any) {
      int last = names - 1;
      meaning.set(last, "{resource}");
    }
    return meaning;
  }

  private static @Nullable Series series(
      PlacePattern pattern, List<Thing> things, @Nullable String format, ZoneId zone) {
    Map<String, List<Instant>> times = new TreeMap<>();
    List<Thing> fitting = new ArrayList<>();
    for (Thing thing : things) {
      PlacePattern.Said said = pattern.of(thing.place(), zone);
      if (said != null) {
        fitting.add(thing);
        times
            .computeIfAbsent(said.resource(), r -> new ArrayList<>())
            .add(said.time() == null ? thing.modified() : said.time());
      }
    }
    if (fitting.isEmpty()) {
      return null;
    }
    List<Instant> all = times.values().stream().flatMap(List::stream).sorted().toList();
    return new Series(
        pattern.toString(),
        pattern.ofFolders(),
        format,
        kind(format),
        fitting.size(),
        List.copyOf(new TreeSet<>(times.keySet())),
        all.get(0),
        all.get(all.size() - 1),
        every(times),
        pattern.saysTime(),
        pattern.saysForm(),
        fitting.stream()
            .sorted(Comparator.comparing(Thing::modified).reversed())
            .limit(3)
            .map(Thing::place)
            .toList());
  }

  /** The median of all times between two of one resource. */
  private static @Nullable Duration every(Map<String, List<Instant>> times) {
    List<Duration> gaps = new ArrayList<>();
    for (List<Instant> own : times.values()) {
      Collections.sort(own);
      for (int i = 1; i < own.size(); i++) {
        gaps.add(Duration.between(own.get(i - 1), own.get(i)));
      }
    }
    Collections.sort(gaps);
    return gaps.size() < 2 ? null : gaps.get(gaps.size() / 2);
  }

  /** The longest ending that is a format, and {@code folder} of a folder; null where none is. */
  public static @Nullable String format(String place, Set<String> formats) {
    if (place.endsWith("/")) {
      return FOLDER;
    }
    String name = place.substring(place.lastIndexOf('/') + 1).toLowerCase(Locale.ROOT);
    for (int dot = name.indexOf('.'); dot >= 0; dot = name.indexOf('.', dot + 1)) {
      if (formats.contains(name.substring(dot + 1))) {
        return name.substring(dot + 1);
      }
    }
    return null;
  }

  private static final Map<String, Kind> BY_CONTENT = Map.ofEntries(
      Map.entry("sql", Kind.DATABASE),
      Map.entry("pgsql", Kind.DATABASE),
      Map.entry("pgdump", Kind.DATABASE),
      Map.entry("mysql", Kind.DATABASE),
      Map.entry("mariadb", Kind.DATABASE),
      Map.entry("sqlite", Kind.DATABASE),
      Map.entry("ldif", Kind.DIRECTORY),
      Map.entry("app", Kind.CONTAINER_APPLICATION),
      Map.entry("img", Kind.VIRTUAL_MACHINE),
      Map.entry("raw", Kind.VIRTUAL_MACHINE),
      Map.entry("qcow2", Kind.VIRTUAL_MACHINE),
      Map.entry("vmdk", Kind.VIRTUAL_MACHINE),
      Map.entry("vhd", Kind.VIRTUAL_MACHINE),
      Map.entry("vhdx", Kind.VIRTUAL_MACHINE),
      Map.entry("vdi", Kind.VIRTUAL_MACHINE));

  /** What a resource is, by what its artifacts hold; a file share where that says nothing else. */
  public static Kind kind(@Nullable String format) {
    String content = format == null ? "" : format.split("\\.")[0];
    return BY_CONTENT.getOrDefault(content, Kind.FILE_SHARE);
  }
}
