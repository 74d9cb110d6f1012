package hardproof.server.programmes;

import hardproof.core.programmes.Draw;
import hardproof.server.storage.Database;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import org.jspecify.annotations.Nullable;

/** What was drawn at starts of programmes, as it was drawn. */
public final class DrawStore {
  private final Database database;

  public DrawStore(Database database) {
    this.database = database;
  }

  /**
   * A draw as it was kept.
   *
   * @param known the digest of what was known before it
   * @param list the candidates, a line each
   * @param sample so many of all were drawn; null where one of each resource was
   * @param runs the runs that were drawn, with the point of each
   */
  public record Kept(
      String programme,
      Instant due,
      String known,
      String seed,
      String digest,
      String list,
      @Nullable Integer sample,
      Map<String, Draw.Candidate> runs) {
    /** Drawn once more from what was kept. */
    public Draw again() {
      return Draw.of(Draw.seed(programme, due, known), Draw.read(list));
    }

    /** What drawing once more draws. */
    public Set<Draw.Candidate> drawnAgain() {
      Draw again = again();
      return sample == null ? again.oneOfEach() : Set.copyOf(again.first(sample));
    }

    /** Whether drawing once more comes to what was kept, and to the points of its runs; anything else is an alarm. */
    public boolean repeats() {
      Draw again = again();
      return again.seed().equals(seed)
          && again.digest().equals(digest)
          && drawnAgain().containsAll(runs.values());
    }
  }

  /** Keeps a draw with the runs that came of it; in the transaction that queues them. */
  void keep(String programme, Instant due, StartOrders.Drawn drawn, List<String> runs) {
    Draw draw = drawn.draw();
    database
        .writes()
        .sql("INSERT INTO programme_draw VALUES (:p, :due, :known, :seed, :digest, :list, :sample)")
        .param("p", programme)
        .param("due", due.toEpochMilli())
        .param("known", drawn.known())
        .param("seed", draw.seed())
        .param("digest", draw.digest())
        .param("list", compressed(draw.list()))
        .param("sample", drawn.sample())
        .update();
    for (String run : runs) {
      database
          .writes()
          .sql("INSERT INTO drawn_run VALUES (:run, :p, :due)")
          .param("run", run)
          .param("p", programme)
          .param("due", due.toEpochMilli())
          .update();
    }
  }

  /** The draw of a start; empty when nothing was drawn there. */
  public Optional<Kept> of(String programme, Instant due) {
    return database
        .reads()
        .sql("""
            SELECT known, seed, digest, candidates, sample FROM programme_draw
             WHERE programme = :p AND due_at = :due
            """)
        .param("p", programme)
        .param("due", due.toEpochMilli())
        .query((r, n) -> kept(r, programme, due))
        .optional()
        .map(k -> new Kept(
            programme,
            due,
            k.known(),
            k.seed(),
            k.digest(),
            k.list(),
            k.sample(),
            runs(programme, due)));
  }

  /** The draws of starts that were due in [from, to], of all programmes. */
  public List<Kept> between(Instant from, Instant to) {
    record Start(String programme, Instant due) {}
    return database
        .reads()
        .sql("SELECT programme, due_at FROM programme_draw WHERE due_at BETWEEN :from AND :to")
        .param("from", from.toEpochMilli())
        .param("to", to.toEpochMilli())
        .query((r, n) -> new Start(r.getString(1), Instant.ofEpochMilli(r.getLong(2))))
        .list()
        .stream()
        .map(s -> of(s.programme(), s.due()).orElseThrow())
        .toList();
  }

  private static Kept kept(ResultSet r, String programme, Instant due) throws SQLException {
    return new Kept(
        programme,
        due,
        r.getString(1),
        r.getString(2),
        r.getString(3),
        text(r.getBytes(4)),
        r.getObject(5) == null ? null : r.getInt(5),
        Map.of());
  }

  private Map<String, Draw.Candidate> runs(String programme, Instant due) {
    Map<String, Draw.Candidate> runs = new LinkedHashMap<>();
    database
        .reads()
        .sql("""
            SELECT run, resource, point FROM drawn_run d JOIN drill_run r ON r.id = d.run
             WHERE d.programme = :p AND due_at = :due
            """)
        .param("p", programme)
        .param("due", due.toEpochMilli())
        .query(r -> {
          runs.put(r.getString(1), new Draw.Candidate(r.getString(2), r.getString(3)));
        });
    return runs;
  }

  private static byte[] compressed(String text) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (GZIPOutputStream gzip = new GZIPOutputStream(bytes)) {
      gzip.write(text.getBytes(StandardCharsets.UTF_8));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return bytes.toByteArray();
  }

  private static String text(byte[] compressed) {
    try (GZIPInputStream gzip = new GZIPInputStream(new ByteArrayInputStream(compressed))) {
      return new String(gzip.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException("a kept list of candidates can't be read", e);
    }
  }
}
