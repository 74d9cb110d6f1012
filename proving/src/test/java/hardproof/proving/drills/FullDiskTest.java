package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.proving.SmallDisk;
import hardproof.proving.Tar;
import hardproof.proving.databases.PostgresEngine;
import hardproof.proving.sandboxes.Sandboxes;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;

/** Our disk runs full in the middle of a drill: that says nothing about the data, and nothing is left. */
class FullDiskTest extends WithStore {
  private static final String CONTENT = "0".repeat(36 << 10);

  /** Somebody else takes the space that was there when the drill was planned. */
  private static final class Filling extends Recorder {
    private final Path other;
    private final int bytes;

    Filling(Path other, int bytes) {
      this.other = other;
      this.bytes = bytes;
    }

    @Override
    public void started(int step, long totalBytes) {
      try {
        if (!Files.exists(other)) {
          Files.write(other, new byte[bytes]);
        }
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
      super.started(step, totalBytes);
    }
  }

  private void isOurTrouble(SmallDisk disk, DrillRequest request, int otherBytes, String words)
      throws IOException {
    Sandboxes tight = new Sandboxes(disk.folder.resolve("sandboxes"), 0);
    Path other = disk.folder.resolve("other");
    DrillResult result = new DrillRunner(tight, ENGINES, DrillLimits.usual())
        .run(request, new Filling(other, otherBytes));
    assertThat(result.restore()).as(result.sentence()).isEqualTo(RestoreState.INTERRUPTED);
    assertThat(result.sentence()).contains(words).contains("says nothing about the");
    assertThat(result.blamedPoint()).isNull();
    assertThat(result.baselines()).isEmpty();
    assertThat(tight.present()).isEmpty();
    assertThat(other).hasSize(otherBytes);
  }

  private static byte[] gzip(byte[] content) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (GZIPOutputStream gzip = new GZIPOutputStream(out)) {
      gzip.write(content);
    }
    return out.toByteArray();
  }

  @Test
  void whileATarIsUnpacked() throws Exception {
    Artifact tar =
        put("a.tar", "tar", new Tar().file("f", CONTENT).bytes(), manifest("f", CONTENT));
    try (SmallDisk disk = new SmallDisk(temp, "64k")) {
      DrillRequest request = request(Method.FULL_RESTORE, List.of(), false, tar);
      isOurTrouble(disk, request, 32 << 10, "No space left on device");
    }
  }

  @Test
  void whileAZipIsLaidAside() throws Exception {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
      zip.setLevel(0);
      zip.putNextEntry(new ZipEntry("f"));
      zip.write(CONTENT.getBytes(StandardCharsets.UTF_8));
    }
    Artifact zip = put("a.zip", "zip", bytes.toByteArray(), manifest("f", CONTENT));
    try (SmallDisk disk = new SmallDisk(temp, "192k")) {
      DrillRequest request = request(Method.FULL_RESTORE, List.of(), false, zip);
      isOurTrouble(disk, request, 160 << 10, "No space left on device");
    }
  }

  @Test
  void whileADatabaseIsRestored() throws Exception {
    Artifact file = put("d.db.gz", "sqlite.gz", gzip(new byte[40 << 10]), null);
    try (SmallDisk disk = new SmallDisk(temp, "64k")) {
      DrillRequest request = request(Method.DATABASE, List.of(), false, file);
      isOurTrouble(disk, request, 32 << 10, "No space left on device");
    }
  }

  @Test
  void whileADumpIsLoadedIntoSqlite() throws Exception {
    String dump = "CREATE TABLE t AS WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n"
        + " LIMIT 1000) SELECT i, hex(zeroblob(500)) FROM n;\n";
    Artifact sql = put("d.sql", "sql", dump.getBytes(StandardCharsets.UTF_8), null);
    try (SmallDisk disk = new SmallDisk(temp, "512k")) {
      DrillRequest request = request(Method.DATABASE, List.of(), false, sql);
      isOurTrouble(disk, request, 128 << 10, "the database's disk: ");
    }
  }

  @Test
  void whileADumpIsLoadedIntoPostgres() throws Exception {
    assumeTrue(PostgresEngine.present().isPresent(), "PostgreSQL is not installed here");
    String dump = "CREATE TABLE t AS SELECT repeat('x', 1000) FROM generate_series(1, 200000);\n"
        + "--\n-- PostgreSQL database dump complete\n--\n";
    Artifact sql = put("d.pgsql", "pgsql", dump.getBytes(StandardCharsets.UTF_8), null);
    try (SmallDisk disk = new SmallDisk(temp, "120m")) {
      DrillRequest request = request(Method.DATABASE, List.of(), false, sql);
      isOurTrouble(disk, request, 1 << 10, "PostgreSQL: No space left on device");
    }
  }
}
