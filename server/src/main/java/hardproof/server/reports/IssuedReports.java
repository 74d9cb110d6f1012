package hardproof.server.reports;

import hardproof.core.reports.ReportKind;
import hardproof.core.wording.Coded;
import hardproof.proving.checksums.Sha256;
import hardproof.server.reports.IssuedReport.IssuedFile;
import hardproof.server.reports.IssuedReport.Sent;
import hardproof.server.reports.IssuedReport.State;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import hardproof.server.web.NotFound;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.util.FileSystemUtils;

/** Every report that was issued, its files, and what became of each delivery. */
public final class IssuedReports {
  private static final String COLUMNS =
      "SELECT id, report, title, kind, scope, from_at, as_at, until_at, due_at, made_at, made_by, pack,"
          + " problem, words FROM issued_report";
  private static final String SENT =
      "SELECT id, issued, how, recipient, state, tries, next_at, ended_at, problem FROM report_delivery";

  private static final Pattern OURS = Pattern.compile("[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}");

  private final Database database;
  private final Path root;

  /**
   * @param root where files of reports lie, a folder for each
   */
  public IssuedReports(Database database, Path root) {
    this.database = database;
    this.root = root;
  }

  /** What is issued: all that is known of it but its number. */
  record Made(IssuedReport report, Map<String, Made.Content> files, List<Report.Delivery> to) {
    /** A file: where it lies, or its bytes. */
    record Content(
        String mediaType, byte @Nullable [] bytes, @Nullable Path file) {}
  }

  /**
   * Keeps it. Its files are whole before it is in the list, and it is in the list with all its deliveries or not at all.
   */
  IssuedReport keep(Made made) throws IOException {
    String name = UUID.randomUUID().toString();
    Path folder = root.resolve(name);
    List<IssuedFile> files = new ArrayList<>();
    for (Map.Entry<String, Made.Content> entry : made.files().entrySet()) {
      Path file = folder.resolve(entry.getKey());
      Made.Content content = entry.getValue();
      if (content.bytes() != null) {
        // What has no file of its own needs no room: that nothing could be made is kept on a full
        // disk too.
        Files.createDirectories(folder);
        Files.write(file, content.bytes());
      }
      Path lies = content.bytes() != null ? file : content.file();
      files.add(
          new IssuedFile(entry.getKey(), content.mediaType(), Files.size(lies), Sha256.of(lies)));
    }
    long id = database.write(() -> {
      long entered = enter(made.report(), name);
      files.forEach(f -> enter(entered, f));
      made.to().forEach(d -> enter(entered, d, made.report().madeAt()));
      return entered;
    });
    return find(id);
  }

  private long enter(IssuedReport r, String folder) {
    return database
        .writes()
        .sql("""
            INSERT INTO issued_report (report, title, kind, scope, from_at, as_at, until_at, due_at, made_at, made_by,
                                       folder, words, pack, problem)
            VALUES (:report, :title, :kind, :scope, :from, :as_at, :until, :due, :made_at, :made_by, :folder, :words, :pack,
                    :problem)
            RETURNING id
            """)
        .param("report", r.report())
        .param("title", r.title())
        .param("kind", r.kind().code())
        .param("scope", r.scope())
        .param("from", millis(r.from()))
        .param("as_at", r.asAt().toEpochMilli())
        .param("until", millis(r.until()))
        .param("due", millis(r.dueAt()))
        .param("made_at", r.madeAt().toEpochMilli())
        .param("made_by", r.madeBy())
        .param("folder", folder)
        .param("words", r.words())
        .param("pack", r.pack())
        .param("problem", r.problem())
        .query(Long.class)
        .single();
  }

  private static @Nullable Long millis(@Nullable Instant instant) {
    return instant == null ? null : instant.toEpochMilli();
  }

  private void enter(long issued, IssuedFile f) {
    database
        .writes()
        .sql("INSERT INTO issued_file VALUES (:issued, :name, :type, :bytes, :sha)")
        .param("issued", issued)
        .param("name", f.name())
        .param("type", f.mediaType())
        .param("bytes", f.bytes())
        .param("sha", f.sha256())
        .update();
  }

  private void enter(long issued, Report.Delivery d, Instant now) {
    database
        .writes()
        .sql("INSERT INTO report_delivery (issued, how, recipient, state, next_at)"
            + " VALUES (:issued, :how, :to, 'waiting', :now)")
        .param("issued", issued)
        .param("how", d.how().code())
        .param("to", d.recipient())
        .param("now", now.toEpochMilli())
        .update();
  }

  /** The newest first. */
  List<IssuedReport> newest(int atMost) {
    return whole(database
        .reads()
        .sql(COLUMNS + " ORDER BY id DESC LIMIT :n")
        .param("n", atMost)
        .query((r, n) -> issued(r))
        .list());
  }

  /**
   * @throws NotFound when there is none
   */
  IssuedReport find(long id) {
    return whole(database
            .reads()
            .sql(COLUMNS + " WHERE id = :id")
            .param("id", id)
            .query((r, n) -> issued(r))
            .list())
        .stream()
        .findFirst()
        .orElseThrow(() -> new NotFound("No report " + id + " was issued."));
  }

  /** With their files and deliveries, which are read together and not one by one. */
  private List<IssuedReport> whole(List<IssuedReport> bare) {
    if (bare.isEmpty()) {
      return bare;
    }
    long first = bare.stream().mapToLong(IssuedReport::id).min().getAsLong();
    long last = bare.stream().mapToLong(IssuedReport::id).max().getAsLong();
    Map<Long, List<IssuedFile>> files = new HashMap<>();
    database
        .reads()
        .sql("SELECT issued, name, media_type, bytes, sha256 FROM issued_file"
            + " WHERE issued BETWEEN :first AND :last ORDER BY name")
        .param("first", first)
        .param("last", last)
        .query(r -> {
          files
              .computeIfAbsent(r.getLong(1), k -> new ArrayList<>())
              .add(new IssuedFile(r.getString(2), r.getString(3), r.getLong(4), r.getString(5)));
        });
    Map<Long, List<Sent>> sent = new HashMap<>();
    database
        .reads()
        .sql(SENT + " WHERE issued BETWEEN :first AND :last ORDER BY id")
        .param("first", first)
        .param("last", last)
        .query(r -> {
          sent.computeIfAbsent(r.getLong(2), k -> new ArrayList<>()).add(sent(r));
        });
    return bare.stream()
        .map(i ->
            i.with(files.getOrDefault(i.id(), List.of()), sent.getOrDefault(i.id(), List.of())))
        .toList();
  }

  /** When a report's schedule asked for it last; empty where it never did. */
  Optional<Instant> lastDue(long report) {
    return database
        .reads()
        .sql("SELECT max(due_at) FROM issued_report WHERE report = :r AND due_at IS NOT NULL")
        .param("r", report)
        .query((r, n) -> Optional.ofNullable(Columns.instant(r, 1)))
        .single();
  }

  /** Of each report the one that its schedule asked for last, where that could not be made. */
  List<IssuedReport> notMade() {
    return whole(database
        .reads()
        .sql(COLUMNS
            + " r WHERE problem IS NOT NULL AND report IN (SELECT id FROM report WHERE active = 1)"
            + " AND id = (SELECT max(id) FROM issued_report WHERE report = r.report)")
        .query((r, n) -> issued(r))
        .list());
  }

  /** A delivery, and the number of the report that it is of. */
  private record Of(Sent sent, long issued) {}

  private Map<Sent, IssuedReport> found(List<Of> deliveries) {
    Map<Sent, IssuedReport> found = new LinkedHashMap<>();
    deliveries.forEach(d -> found.put(d.sent(), find(d.issued())));
    return found;
  }

  /** Deliveries that were given up, of reports that are on, where none to the same was made since. */
  Map<Sent, IssuedReport> givenUp() {
    return found(
        database.reads().sql("""
            SELECT d.id, d.issued, d.how, d.recipient, d.state, d.tries, d.next_at, d.ended_at, d.problem
              FROM report_delivery d JOIN issued_report i ON i.id = d.issued
             WHERE d.state = 'failed' AND i.report IN (SELECT id FROM report WHERE active = 1)
               AND d.id = (SELECT max(x.id) FROM report_delivery x JOIN issued_report y ON y.id = x.issued
                            WHERE y.report = i.report AND x.how = d.how AND x.recipient = d.recipient
                              AND x.state <> 'waiting')
             ORDER BY d.id
            """).query((r, n) -> new Of(sent(r), r.getLong(2))).list());
  }

  /** Deliveries that are due to be tried, the oldest first. */
  Map<Sent, IssuedReport> due(Instant now) {
    return found(database
        .reads()
        .sql(SENT + " WHERE state = 'waiting' AND next_at <= :now ORDER BY next_at, id LIMIT 50")
        .param("now", now.toEpochMilli())
        .query((r, n) -> new Of(sent(r), r.getLong(2)))
        .list());
  }

  void ended(Sent sent, State state, @Nullable String problem, Instant now) {
    database.write(() -> database
        .writes()
        .sql(
            "UPDATE report_delivery SET state = :state, tries = tries + 1, next_at = NULL, ended_at = :now,"
                + " problem = :problem WHERE id = :id")
        .param("state", state.code())
        .param("now", now.toEpochMilli())
        .param("problem", problem)
        .param("id", sent.id())
        .update());
  }

  void later(Sent sent, String problem, Instant next) {
    database.write(() -> database
        .writes()
        .sql(
            "UPDATE report_delivery SET tries = tries + 1, next_at = :next, problem = :problem WHERE id = :id")
        .param("next", next.toEpochMilli())
        .param("problem", problem)
        .param("id", sent.id())
        .update());
  }

  /** What waits of a report that is removed is not sent any more. */
  void giveUp(long report, Instant now) {
    database.write(() -> database
        .writes()
        .sql("UPDATE report_delivery SET state = 'failed', next_at = NULL, ended_at = :now,"
            + " problem = 'its report was removed' WHERE state = 'waiting'"
            + " AND issued IN (SELECT id FROM issued_report WHERE report = :r)")
        .param("now", now.toEpochMilli())
        .param("r", report)
        .update());
  }

  /**
   * Where a file of it lies; not that of a pack, which lies with the packs.
   *
   * @throws NotFound when it was removed from the folder
   */
  Path file(IssuedReport report, String name) {
    String folder = database
        .reads()
        .sql("SELECT folder FROM issued_report r JOIN issued_file f ON f.issued = r.id"
            + " WHERE r.id = :id AND f.name = :name")
        .param("id", report.id())
        .param("name", name)
        .query(String.class)
        .optional()
        .orElseThrow(() -> new NotFound("The report has no file " + name + "."));
    Path file = root.resolve(folder).resolve(name);
    if (!Files.isRegularFile(file)) {
      throw new NotFound("The file " + file + " was removed from the data folder; issue it again.");
    }
    return file;
  }

  /** Removes files of what a process that was stopped did not enter. */
  public void removeHalfMade() throws IOException {
    if (!Files.isDirectory(root)) {
      return;
    }
    Set<String> known = Set.copyOf(database
        .reads()
        .sql("SELECT folder FROM issued_report")
        .query(String.class)
        .list());
    List<Path> folders;
    try (Stream<Path> list = Files.list(root)) {
      folders = list.filter(f -> OURS.matcher(f.getFileName().toString()).matches())
          .filter(f -> !known.contains(f.getFileName().toString()))
          .toList();
    }
    for (Path folder : folders) {
      FileSystemUtils.deleteRecursively(folder);
    }
  }

  private static IssuedReport issued(ResultSet r) throws SQLException {
    return new IssuedReport(
        r.getLong("id"),
        r.getObject("report") == null ? null : r.getLong("report"),
        r.getString("title"),
        Coded.of(ReportKind.class, r.getString("kind")),
        r.getString("scope"),
        Columns.instant(r, 6),
        Instant.ofEpochMilli(r.getLong("as_at")),
        Columns.instant(r, 8),
        Columns.instant(r, 9),
        Instant.ofEpochMilli(r.getLong("made_at")),
        r.getString("made_by"),
        r.getString("words"),
        r.getObject("pack") == null ? null : r.getLong("pack"),
        r.getString("problem"),
        List.of(),
        List.of());
  }

  private static Sent sent(ResultSet r) throws SQLException {
    return new Sent(
        r.getLong("id"),
        Coded.of(Report.How.class, r.getString("how")),
        r.getString("recipient"),
        Coded.of(State.class, r.getString("state")),
        r.getInt("tries"),
        Columns.instant(r, 7),
        Columns.instant(r, 8),
        r.getString("problem"));
  }
}
