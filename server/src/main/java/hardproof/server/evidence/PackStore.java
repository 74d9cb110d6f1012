package hardproof.server.evidence;

import hardproof.core.estate.Selector;
import hardproof.core.proof.Verdict;
import hardproof.proving.checksums.Sha256;
import hardproof.server.facts.SelectorJson;
import hardproof.server.storage.DataFolder;
import hardproof.server.storage.Database;
import hardproof.server.web.NotFound;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Packs that were issued: their files, and the list of them. */
public final class PackStore {
  private final Database database;
  private final DataFolder folder;
  private final PackBuilder builder;

  public PackStore(Database database, DataFolder folder, PackBuilder builder) {
    this.database = database;
    this.folder = folder;
    this.builder = builder;
  }

  /** A pack that was issued. {@code sha256} is of the zip. */
  public record Issued(
      long id,
      String name,
      String title,
      String scope,
      Instant asAt,
      Instant knownAt,
      Instant madeAt,
      String madeBy,
      long bytes,
      String sha256,
      int workloads,
      int proven) {}

  /**
   * Writes the pack and enters it into the list. The file is whole before it gets its name, and in
   * the list only after that.
   */
  public Issued issue(PackBuilder.Contents contents, Instant now) throws IOException {
    return issue(contents, now, new PackProgress());
  }

  /** As {@link #issue(PackBuilder.Contents, Instant)}, told of on the way; where it is stopped, nothing of it is kept. */
  Issued issue(PackBuilder.Contents contents, Instant now, PackProgress progress)
      throws IOException {
    Files.createDirectories(folder.packs());
    Path temporary = Files.createTempFile(folder.packs(), "making-", ".tmp");
    try {
      try (OutputStream out = Files.newOutputStream(temporary)) {
        builder.write(contents, out, progress);
      }
      return find(named(contents, temporary, now));
    } finally {
      Files.deleteIfExists(temporary);
    }
  }

  /** Two that are made at once get two names. */
  private synchronized long named(PackBuilder.Contents contents, Path made, Instant now)
      throws IOException {
    String name = freeName(contents.facts().asAt());
    Path file = file(name);
    Files.move(made, file, StandardCopyOption.ATOMIC_MOVE);
    return enter(contents, name, file, now);
  }

  /** A place for a file that is looked at and not kept; it goes with what is half made if it is left behind. */
  Path dropped() throws IOException {
    Files.createDirectories(folder.packs());
    return Files.createTempFile(folder.packs(), "making-", ".tmp");
  }

  /** Removes what a process that was stopped had not finished. */
  public void removeHalfMade() throws IOException {
    if (!Files.isDirectory(folder.packs())) {
      return;
    }
    List<Path> half;
    try (Stream<Path> list = Files.list(folder.packs())) {
      half = list.filter(p -> p.getFileName().toString().matches("making-.*\\.tmp"))
          .toList();
    }
    for (Path path : half) {
      Files.delete(path);
    }
  }

  private String freeName(Instant asAt) {
    String name = PackBuilder.FOLDER.format(asAt);
    String free = name;
    for (int i = 2; Files.exists(file(free)); i++) {
      free = name + "-" + i;
    }
    return free;
  }

  private long enter(PackBuilder.Contents contents, String name, Path file, Instant now)
      throws IOException {
    long bytes = Files.size(file);
    String sha256 = Sha256.of(file);
    Selector scope = contents.scope();
    return database.write(() -> database
        .writes()
        .sql("""
            INSERT INTO pack (name, title, scope, as_at, known_at, made_at, made_by, bytes, sha256, workloads,
                              proven)
            VALUES (:name, :title, :scope, :as_at, :known_at, :made_at, :made_by, :bytes, :sha256, :workloads, :proven)
            RETURNING id
            """)
        .param("name", name)
        .param("title", contents.title())
        .param("scope", SelectorJson.write(scope))
        .param("as_at", contents.facts().asAt().toEpochMilli())
        .param("known_at", contents.facts().knownAt().toEpochMilli())
        .param("made_at", now.toEpochMilli())
        .param("made_by", contents.madeBy())
        .param("bytes", bytes)
        .param("sha256", sha256)
        .param("workloads", contents.evaluation().workloads().size())
        .param("proven", contents.evaluation().counts().getOrDefault(Verdict.PROVEN, 0))
        .query(Long.class)
        .single());
  }

  /** Newest first. */
  public List<Issued> all() {
    return select(" ORDER BY id DESC").query((r, n) -> issued(r)).list();
  }

  /**
   * @throws NotFound when there is none
   */
  public Issued find(long id) {
    return select(" WHERE id = :id")
        .param("id", id)
        .query((r, n) -> issued(r))
        .optional()
        .orElseThrow(() -> new NotFound("No pack " + id + " was issued."));
  }

  private JdbcClient.StatementSpec select(String rest) {
    return database.reads().sql("""
            SELECT id, name, title, scope, as_at, known_at, made_at, made_by, bytes, sha256, workloads,
                   proven
              FROM pack
            """ + rest);
  }

  private static Issued issued(ResultSet r) throws SQLException {
    return new Issued(
        r.getLong("id"),
        r.getString("name"),
        r.getString("title"),
        SelectorJson.read(r.getString("scope")).words(),
        Instant.ofEpochMilli(r.getLong("as_at")),
        Instant.ofEpochMilli(r.getLong("known_at")),
        Instant.ofEpochMilli(r.getLong("made_at")),
        r.getString("made_by"),
        r.getLong("bytes"),
        r.getString("sha256"),
        r.getInt("workloads"),
        r.getInt("proven"));
  }

  private Path file(String name) {
    return folder.packs().resolve(name + ".zip");
  }

  /**
   * The pack's zip.
   *
   * @throws NotFound when it was removed from the folder
   */
  public Path file(Issued pack) {
    Path file = file(pack.name());
    if (!Files.isRegularFile(file)) {
      throw new NotFound(
          "The file " + file + " was removed from the data folder; make the pack again.");
    }
    return file;
  }
}
