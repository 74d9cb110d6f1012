package hardproof.server.evidence;

import de.siegmar.fastcsv.reader.CsvReader;
import hardproof.core.controls.Watched;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Selector;
import hardproof.core.insights.Stretch;
import hardproof.server.evidence.PackHistory.PackBefore;
import hardproof.server.evidence.PackHistory.PackDraw;
import hardproof.server.facts.SelectorJson;
import hardproof.server.findings.FindingLog;
import hardproof.server.programmes.DrawStore;
import hardproof.server.storage.DataFolder;
import hardproof.server.storage.Database;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Reader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import org.jspecify.annotations.Nullable;

/** Gathers what a pack tells of the period before its instant. */
public final class PackHistories {
  private final Database database;
  private final DataFolder folder;
  private final FindingLog findings;
  private final DrawStore draws;

  public PackHistories(Database database, DataFolder folder, FindingLog findings, DrawStore draws) {
    this.database = database;
    this.folder = folder;
    this.findings = findings;
    this.draws = draws;
  }

  /**
   * @param facts of the pack, but for its history
   */
  PackHistory of(FactsJson facts, Instant from) {
    PackBefore before = before(facts.scope(), facts.asAt());
    Set<String> subjects =
        facts.facts().resources().stream().map(Resource::key).collect(Collectors.toSet());
    // What changed since the pack before may reach further back than the period.
    Instant reach = before == null || before.asAt().isAfter(from) ? from : before.asAt();
    return new PackHistory(
        watched(from, reach, facts.asAt(), subjects), draws(facts, from), before);
  }

  /** When findings of some resources were open, as it was written down here. */
  public Watched watched(Instant from, Instant to, Set<String> subjects) {
    return watched(from, from, to, subjects);
  }

  private Watched watched(Instant from, Instant reach, Instant to, Set<String> subjects) {
    Instant since = findings.began();
    List<Stretch> stretches = findings.stretches(reach, to).stream()
        .filter(s -> subjects.contains(s.subject()))
        .map(s -> new Stretch(s.finding(), null, s.opened(), s.closed()))
        .toList();
    return new Watched(from, since == null || since.isAfter(to) ? null : since, stretches);
  }

  private List<PackDraw> draws(FactsJson facts, Instant from) {
    Set<String> told = new HashSet<>();
    facts.told().forEach(t -> told.add(t.fact().run()));
    return draws.between(from, facts.asAt()).stream()
        .filter(kept -> kept.runs().keySet().stream().anyMatch(told::contains))
        .sorted(Comparator.comparing(DrawStore.Kept::due).thenComparing(DrawStore.Kept::programme))
        .map(kept -> new PackDraw(
            kept.programme(), kept.due(), kept.known(), kept.sample(), kept.list(), kept.runs()))
        .toList();
  }

  /** The newest of the same scope that tells of an earlier instant, whose file is there and can be read. */
  private @Nullable PackBefore before(Selector scope, Instant asAt) {
    return database
        .reads()
        .sql("""
            SELECT name, title, as_at, known_at, sha256 FROM pack
             WHERE scope = :scope AND as_at < :as_at ORDER BY as_at DESC, id DESC
            """)
        .param("scope", SelectorJson.write(scope))
        .param("as_at", asAt.toEpochMilli())
        .query((r, n) -> before(r))
        .list()
        .stream()
        .flatMap(Optional::stream)
        .findFirst()
        .orElse(null);
  }

  private Optional<PackBefore> before(ResultSet r) throws SQLException {
    Path file = folder.packs().resolve(r.getString(1) + ".zip");
    if (!Files.isRegularFile(file)) {
      return Optional.empty();
    }
    try (ZipFile zip = new ZipFile(file.toFile(), StandardCharsets.UTF_8)) {
      return Optional.of(new PackBefore(
          r.getString(2),
          Instant.ofEpochMilli(r.getLong(3)),
          Instant.ofEpochMilli(r.getLong(4)),
          r.getString(5),
          standard(zip),
          verdicts(zip)));
    } catch (IOException | RuntimeException e) {
      // Whatever became of that file, it says nothing of what is so now.
      return Optional.empty();
    }
  }

  private static Map<String, String> verdicts(ZipFile zip) throws IOException {
    Map<String, String> verdicts = new TreeMap<>();
    try (var rows =
        CsvReader.builder().ofNamedCsvRecord(text(zip, "/data/" + PackBuilder.WORKLOADS))) {
      rows.forEach(row -> verdicts.put(row.getField("workload"), row.getField("verdict")));
    }
    return verdicts;
  }

  private static String standard(ZipFile zip) throws IOException {
    try (BufferedReader info = new BufferedReader(text(zip, "/bag-info.txt"))) {
      return info.lines()
          .filter(line -> line.startsWith(PackBuilder.STANDARD + ": "))
          .map(line -> line.substring(PackBuilder.STANDARD.length() + 2))
          .findFirst()
          .orElseThrow(() -> new IOException("no standard is named"));
    }
  }

  private static Reader text(ZipFile zip, String end) throws IOException {
    ZipEntry entry = zip.stream()
        .filter(e -> e.getName().endsWith(end))
        .findFirst()
        .orElseThrow(() -> new IOException(end + " is not in it"));
    return new InputStreamReader(zip.getInputStream(entry), StandardCharsets.UTF_8);
  }
}
