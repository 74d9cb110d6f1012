package hardproof.server.drills;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.Method;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.drills.DrillOptions;
import hardproof.server.RunningServer;
import hardproof.server.people.Role;
import hardproof.server.runs.Run;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** Looking into a point, restoring some of it, comparing, and taking a file out. */
class FilesTest {
  @TempDir
  static Path folder;

  private static RunningServer server;
  private static RunningServer.Client client;
  private static DrillWith drills;

  @BeforeAll
  static void start() throws IOException {
    server = new RunningServer(folder).with(Role.OPERATOR, Role.AUDITOR);
    client = server.as(Role.OPERATOR);
    drills = new DrillWith(server.estate);
  }

  @AfterAll
  static void stop() {
    server.close();
  }

  private static JsonNode listing(String point) {
    return client.get("/api/point-files?resource=share&point=" + point).json();
  }

  @Test
  void aPointIsLookedIntoWithoutRestoringIt() throws IOException {
    JsonNode first = listing("share-1");
    JsonNode second = listing("share-2");
    assertThat(first.path("total").asInt()).isEqualTo(12);
    assertThat(second.path("files").valueStream().map(f -> f.path("layer").asString()))
        .contains("share-1.tar.gz", "share-2.tar.gz");
    // The list is what a restore leaves.
    Run restored = drills.run("share", Method.FULL_RESTORE, Duration.ofHours(1), List.of());
    assertThat(second.path("files").valueStream().map(f -> f.path("path").asString()))
        .containsExactlyElementsOf(client
            .get("/api/drill-runs/" + restored.id() + "/files")
            .json()
            .valueStream()
            .map(f -> f.path("path").asString())
            .toList());
    assertThat(client
            .get("/api/point-files?resource=share&point=share-2&find=zzz")
            .json()
            .path("total")
            .asInt())
        .isZero();
    assertThat(client.get("/api/point-files?resource=db&point=db-1").detail())
        .startsWith("There are no files to look at: db-1.sqlite.gz is of format sqlite.gz");
    client.delete("/api/sandboxes/" + restored.id());
  }

  private static Run picked(String point, String path) {
    return drills.run(
        "share",
        point,
        Method.SAMPLE_RESTORE,
        Duration.ofHours(1),
        List.of(),
        new DrillOptions("", 1, List.of(path), null, null));
  }

  private static String onePath(String layer) {
    return listing("share-2")
        .path("files")
        .valueStream()
        .filter(f -> f.path("layer").asString().equals(layer))
        .filter(f -> listing("share-1")
            .path("files")
            .valueStream()
            .anyMatch(g -> g.path("path").equals(f.path("path"))))
        .findFirst()
        .orElseThrow()
        .path("path")
        .asString();
  }

  @Test
  void twoRunsAreComparedByBytesAttributesAndLines() {
    String changed = onePath("share-2.tar.gz");
    Run now = picked("share-2", changed);
    Run before = picked("share-1", changed);
    String both = "first=" + now.id() + "&second=" + before.id();
    JsonNode comparison = client.get("/api/file-comparisons?" + both).json();
    assertThat(comparison.path("different").path(0).path("change").asString()).isEqualTo("changed");
    JsonNode lines =
        client.get("/api/line-comparisons?" + both + "&path=" + changed).json().path("lines");
    assertThat(lines.valueStream().map(JsonNode::asString))
        .anySatisfy(l -> assertThat(l).startsWith("@@"))
        .anySatisfy(l -> assertThat(l).startsWith("+"))
        .anySatisfy(l -> assertThat(l).startsWith("-"));
    assertThat(client
            .get("/api/file-comparisons?first=" + now.id() + "&second=" + now.id())
            .json()
            .path("same")
            .asInt())
        .isEqualTo(1);
  }

  @Test
  void takingAFileOutIsAllowedByRoleAndRecorded() throws IOException {
    String path = onePath("share-1.tar.gz");
    Run run = picked("share-2", path);
    String file = "/api/drill-runs/" + run.id() + "/file?path=" + path;
    assertThat(server.as(Role.AUDITOR).get(file).status()).isEqualTo(403);
    byte[] taken = client.bytes(file, "").body();
    Path restored = server
        .estate
        .installation
        .sandboxes()
        .folder(run.id())
        .resolve("restored")
        .resolve(path);
    assertThat(taken).isEqualTo(Files.readAllBytes(restored));
    JsonNode record =
        client.get("/api/drill-runs/" + run.id() + "/files-taken").json().path(0);
    assertThat(record.path("by").asString()).isEqualTo("operator");
    assertThat(record.path("sha256").asString()).isEqualTo(Sha256.of(taken));
    assertThat(client
            .get("/api/drill-runs/" + run.id() + "/file?path=../../hard-proof.db")
            .status())
        .isEqualTo(404);
    client.delete("/api/sandboxes/" + run.id());
    assertThat(client.get(file).detail())
        .startsWith("What this run restored is not there any more");
  }
}
