package hardproof.proving.drills;

import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import hardproof.proving.checks.Aspect;
import hardproof.proving.databases.Emptiness;
import hardproof.proving.databases.MariaDbDatabase;
import hardproof.proving.databases.PostgresDatabase;
import hardproof.proving.databases.RestoredDatabase;
import hardproof.proving.databases.RestoredDatabase.QueryFailed;
import hardproof.proving.databases.SqliteDatabase;
import hardproof.proving.databases.SqliteDump;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.formats.Content;
import hardproof.proving.formats.DumpMark;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.sandboxes.Sandboxes;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * Restores a database under a new name, has the engine check it, and asks it questions. Without a
 * question it is shown restored, not running: nobody has asked it for anything.
 */
final class DatabaseDrill implements DrillMethod {
  private final Engines engines;

  DatabaseDrill(Engines engines) {
    this.engines = engines;
  }

  private static final Set<Content> READ =
      Set.of(Content.SQLITE, Content.SQL, Content.POSTGRES, Content.PGDUMP, Content.MARIADB);

  private static boolean postgres(DrillRequest request) {
    return content(request) == Content.POSTGRES || content(request) == Content.PGDUMP;
  }

  private static Content content(DrillRequest request) {
    return request.last().known().map(ArtifactFormat::content).orElse(null);
  }

  @Override
  public List<String> steps(DrillRequest request) {
    List<String> steps = new ArrayList<>();
    steps.add("Restore " + request.last().place() + " under a new name");
    if (content(request) == Content.SQL) {
      steps.add("Load the dump into a fresh SQLite database");
    } else if (postgres(request)) {
      steps.add("Load the dump into a fresh PostgreSQL server");
    } else if (content(request) == Content.MARIADB) {
      steps.add("Load the dump into a fresh MariaDB server");
    }
    steps.add("Integrity check by the engine");
    return steps;
  }

  @Override
  public Rung reaches(DrillRequest request) {
    return request.asked() ? Rung.RUNNING : Rung.RESTORED;
  }

  /** A dump and what is loaded from it lie side by side; a server takes some 60 MB by itself. */
  @Override
  public long spaceBytes(DrillRequest request) throws IOException {
    long size = ArtifactReading.unpackedSize(request, request.last());
    Content content = content(request);
    return content == Content.SQL
        ? 2 * size
        : content == Content.POSTGRES
            ? 3 * size + (60L << 20)
            : content == Content.PGDUMP
                ? 8 * size + (60L << 20)
                : content == Content.MARIADB ? 4 * size + (250L << 20) : size;
  }

  @Override
  public String refusal(DrillRequest request) {
    String refusal = FileRestore.refusal(
        request,
        f -> READ.contains(f.content()),
        "sqlite, sql, pgsql, pgdump and mariadb, as they are or compressed");
    if (refusal != null) {
      return refusal;
    }
    return postgres(request)
        ? engines.postgresRefusal()
        : content(request) == Content.MARIADB ? engines.mariaDbRefusal() : null;
  }

  @Override
  public Set<Aspect> aspects() {
    return Set.of(Aspect.DATABASE);
  }

  private static Path file(DrillRequest request, Workplace w) {
    return w.sandbox.resolve("drill-" + request.run() + ".db");
  }

  private static Path server(Workplace w) {
    return w.sandbox.resolve("server");
  }

  @Override
  public void restore(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    Content content = content(request);
    if (content == Content.SQLITE) {
      FileRestore.restore(request, request.last(), file(request, w), w);
      w.notes.addAll(new SqliteCompanions(request, file(request, w)).use());
      return;
    }
    Path dump = w.sandbox.resolve("dump.sql");
    if (content == Content.PGDUMP) {
      unpackDump(request, dump, w);
    } else {
      FileRestore.restore(request, request.last(), dump, w);
    }
    w.steps.start(Files.size(dump));
    try (InputStream in = new Reported(Files.newInputStream(dump), w.steps)) {
      DumpMark.accept(dump, content == Content.PGDUMP ? Content.POSTGRES : content);
      if (content == Content.SQL) {
        w.steps.done(SqliteDump.load(in, file(request, w), w.maxBytes, w.steps::stopIfCancelled)
            .sentence());
      } else {
        boolean postgres = postgres(request);
        String notes = postgres ? loadPostgres(dump, in, w) : loadMariaDb(dump, in, w);
        w.notes.addAll(notes.isEmpty() ? List.of() : List.of(notes));
        w.steps.done("loaded into "
            + (postgres
                ? "PostgreSQL " + engines.postgres().version()
                : "MariaDB " + engines.mariaDb().version())
            + (notes.isEmpty() ? "" : "; " + notes));
      }
    } catch (NotReadHere e) {
      throw DrillFailure.lacking(request.last().place() + ": " + e.getMessage());
    } catch (QueryFailed e) {
      throw DrillFailure.contentWrong(
          request.last(), request.last().place() + " can't be loaded: " + e.getMessage());
    }
    Files.delete(dump);
  }

  /** One of pg_dump's own forms becomes a plain dump first, by the program that is made for it. */
  private void unpackDump(DrillRequest request, Path dump, Workplace w)
      throws DrillFailure, IOException {
    Path archive = restoredArchive(request, w);
    try {
      engines.postgres().plain(archive, dump, w.steps::stopIfCancelled);
    } catch (NotReadHere e) {
      throw DrillFailure.lacking(request.last().place() + ": " + e.getMessage());
    } catch (QueryFailed e) {
      throw DrillFailure.contentUnrestorable(
          request.last(), request.last().place() + " can't be restored: " + e.getMessage());
    }
    Sandboxes.removeTree(archive);
  }

  private static Path restoredArchive(DrillRequest request, Workplace w)
      throws DrillFailure, IOException {
    Path archive;
    if (request.last().known().orElseThrow().tree()) {
      TreeRestore.restore(request, w, null);
      archive = w.restored();
    } else {
      archive = w.sandbox.resolve("dump.archive");
      FileRestore.restore(request, request.last(), archive, w);
    }
    return archive;
  }

  private String loadPostgres(Path dump, InputStream in, Workplace w)
      throws DrillFailure, QueryFailed, IOException {
    PostgresDatabase database;
    try {
      database = engines.postgres().create(server(w), w.steps::stopIfCancelled);
    } catch (QueryFailed e) {
      throw DrillFailure.ofRequest(e.getMessage());
    }
    try (database) {
      return database.load(dump, in);
    }
  }

  private String loadMariaDb(Path dump, InputStream in, Workplace w)
      throws DrillFailure, QueryFailed, IOException {
    MariaDbDatabase database;
    try {
      database = engines.mariaDb().create(server(w), w.steps::stopIfCancelled);
    } catch (QueryFailed e) {
      throw DrillFailure.ofRequest(e.getMessage());
    }
    try (database) {
      return database.load(dump, in);
    }
  }

  @Override
  public String check(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    w.steps.start(0);
    try (RestoredDatabase database = open(request, w)) {
      List<String> faults = database.integrityFaults();
      if (!faults.isEmpty()) {
        throw DrillFailure.contentWrong(
            request.last(),
            "restored whole, but the database failed its own integrity check: "
                + Wording.list(faults.subList(0, Math.min(2, faults.size()))));
      }
      String remark = database.remark();
      if (remark != null) {
        w.notes.add(remark);
      }
      Emptiness emptiness = database.emptiness();
      if (emptiness.empty() && !request.mayBeEmpty()) {
        throw DrillFailure.contentWrong(
            request.last(),
            "nothing was restored: " + emptiness.sentence()
                + ". Where that is right, give the resource"
                + " the check \"it is empty, and that is right\"");
      }
    } catch (NotReadHere e) {
      throw DrillFailure.lacking(request.last().place() + ": " + e.getMessage());
    } catch (QueryFailed e) {
      throw DrillFailure.contentWrong(
          request.last(), "restored whole, but the database can't be checked: " + e.getMessage());
    }
    w.steps.done("ok");
    return "database opened, integrity check ok"
        + (w.notes.isEmpty() ? "" : "; " + String.join("; ", w.notes))
        + (request.inside().isEmpty() ? "; nothing was asked of it" : "");
  }

  @Override
  public RestoredDatabase open(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    boolean served = content(request) != Content.SQLITE && content(request) != Content.SQL;
    try {
      return opened(request, w, served);
    } catch (QueryFailed e) {
      if (served) {
        throw DrillFailure.ofRequest(e.getMessage());
      }
      throw DrillFailure.contentWrong(
          request.last(), "restored whole, but the database can't be opened: " + e.getMessage());
    }
  }

  private RestoredDatabase opened(DrillRequest request, Workplace w, boolean served)
      throws RestoredDatabase.QueryFailed, IOException {
    return postgres(request)
        ? engines.postgres().open(server(w), w.steps::stopIfCancelled)
        : served
            ? engines.mariaDb().open(server(w), w.steps::stopIfCancelled)
            : SqliteDatabase.open(file(request, w), w.steps::stopIfCancelled);
  }

  /** Reports what is read of a file in the sandbox. */
  private static final class Reported extends java.io.FilterInputStream {
    private final Steps steps;

    Reported(InputStream in, Steps steps) {
      super(in);
      this.steps = steps;
    }

    @Override
    public int read(byte[] buffer, int offset, int length) throws IOException {
      int n = in.read(buffer, offset, length);
      if (n > 0) {
        steps.read(n);
      }
      return n;
    }
  }
}
