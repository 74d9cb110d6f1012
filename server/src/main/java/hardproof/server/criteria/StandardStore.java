package hardproof.server.criteria;

import hardproof.core.criteria.ShippedStandards;
import hardproof.core.criteria.Standard;
import hardproof.server.storage.Database;
import hardproof.server.web.Conflict;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;

/** Standards by name and version, and which of them was in force when. */
public final class StandardStore {
  private static final List<Standard> SHIPPED =
      List.of(ShippedStandards.sensible(), ShippedStandards.strict());

  private final Database database;
  private final Map<String, Standard> read = new ConcurrentHashMap<>();

  public StandardStore(Database database) {
    this.database = database;
  }

  /** A version, without its demands. Those that ship have no saver and are there from the start. */
  public record Version(
      String name,
      int version,
      String note,
      @Nullable Instant savedAt,
      @Nullable String savedBy) {}

  /** Every version, by name, the newest first. */
  public List<Version> versions() {
    List<Version> saved = saved();
    return java.util.stream.Stream.concat(
            saved.stream(),
            SHIPPED.stream()
                .map(s -> new Version(s.name(), 1, "ships with Hard Proof", null, null)))
        .sorted(java.util.Comparator.comparing(Version::name)
            .thenComparing(Version::version, java.util.Comparator.reverseOrder()))
        .toList();
  }

  private List<Version> saved() {
    return database
        .reads()
        .sql("SELECT name, version, note, saved_at, saved_by FROM standard"
            + " WHERE saved_by <> '' ORDER BY name, version DESC")
        .query((r, n) -> new Version(
            r.getString(1),
            r.getInt(2),
            r.getString(3),
            Instant.ofEpochMilli(r.getLong(4)),
            r.getString(5)))
        .list();
  }

  public Optional<Standard> find(String name, int version) {
    Optional<Standard> shipped = SHIPPED.stream()
        .filter(s -> s.name().equalsIgnoreCase(name) && s.version() == version)
        .findFirst();
    if (shipped.isPresent()) {
      return shipped;
    }
    Standard known = read.get(name + " " + version);
    if (known != null) {
      return Optional.of(known);
    }
    Optional<Standard> found = kept(name, version);
    found.ifPresent(s -> read.put(name + " " + version, s));
    return found;
  }

  private Optional<Standard> kept(String name, int version) {
    return database
        .reads()
        .sql("SELECT body FROM standard WHERE name = :name AND version = :version")
        .param("name", name)
        .param("version", version)
        .query((r, n) -> StandardJson.read(r.getString(1)))
        .optional();
  }

  /** The newest version of a name; 0 when there is none. */
  public int newest(String name) {
    return versions().stream()
        .filter(v -> v.name().equalsIgnoreCase(name))
        .mapToInt(Version::version)
        .max()
        .orElse(0);
  }

  /** The standard that evaluations of an instant are held to. */
  public Standard inForceAt(Instant instant) {
    return database
        .reads()
        .sql(
            "SELECT name, version FROM standard_in_force WHERE since <= :at ORDER BY id DESC LIMIT 1")
        .param("at", instant.toEpochMilli())
        // The body is asked for when this is answered: each question holds one of few connections.
        .query((r, n) -> Map.entry(r.getString(1), r.getInt(2)))
        .optional()
        .map(chosen -> find(chosen.getKey(), chosen.getValue()).orElseThrow())
        .orElse(Standard.shipped());
  }

  /**
   * Saves a new version.
   *
   * @param basedOn the version that was changed; 0 for a new name
   * @return the version with its number
   * @throws Conflict when somebody has saved another one since
   */
  public Standard save(Standard changed, int basedOn, String note, String by, Instant now) {
    return database.write(() -> {
      int newest = newest(changed.name());
      if (newest != basedOn) {
        throw new Conflict(tooLate(changed, basedOn, newest));
      }
      Standard next = changed.asVersion(newest + 1);
      insert(next, note, by, now);
      return next;
    });
  }

  private static String tooLate(Standard changed, int basedOn, int newest) {
    return basedOn == 0
        ? "There is a standard '" + changed.name() + "' already; give yours another name."
        : "Somebody has saved version " + newest + " of '" + changed.name()
            + "' while you changed version " + basedOn
            + ". Nothing was overwritten: open version " + newest
            + " and make your change there.";
  }

  private void insert(Standard standard, String note, String by, Instant now) {
    database
        .writes()
        .sql("INSERT INTO standard VALUES (:name, :version, :body, :note, :at, :by)")
        .param("name", standard.name())
        .param("version", standard.version())
        .param("body", StandardJson.write(standard))
        .param("note", note)
        .param("at", now.toEpochMilli())
        .param("by", by)
        .update();
  }

  /** From now on evaluations are held to this one; those of earlier instants are not touched. */
  public void putInForce(Standard standard, String by, Instant now) {
    database.change(() -> {
      boolean kept = isKept(standard);
      if (!kept && standard.version() == 1 && SHIPPED.contains(standard)) {
        insert(standard, "ships with Hard Proof", "", now);
      }
      return insertInForce(standard, by, now);
    });
  }

  private boolean isKept(Standard standard) {
    return database
            .reads()
            .sql("SELECT count(*) FROM standard WHERE name = :name AND version = :version")
            .param("name", standard.name())
            .param("version", standard.version())
            .query(Long.class)
            .single()
        > 0;
  }

  private int insertInForce(Standard standard, String by, Instant now) {
    return database
        .writes()
        .sql("INSERT INTO standard_in_force (name, version, since, chosen_by)"
            + " VALUES (:name, :version, :since, :by)")
        .param("name", standard.name())
        .param("version", standard.version())
        .param("since", now.toEpochMilli())
        .param("by", by)
        .update();
  }
}
