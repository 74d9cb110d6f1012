package hardproof.server.installation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Answer;
import hardproof.server.WithEstate;
import hardproof.server.people.PeopleStore;
import hardproof.server.people.Role;
import hardproof.server.storage.DataFolder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Clock;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Where stores may lie is said by whoever runs the installation, never by a row of a feed. */
class AllowedStoresTest extends WithEstate {
  /** The attack as it was made: a store at the root, and a place that is our own database. */
  @Test
  void aRowOfAFeedCannotMakeUsReadOurOwnDatabase() throws IOException {
    Path data = estate.installation.folder().root();
    try (RunningServer server = new RunningServer(estate).with(Role.OPERATOR)) {
      String secret = estate
          .installation
          .part(PeopleStore.class)
          .find("operator")
          .orElseThrow()
          .passwordHash();
      for (String path : List.of("/", data.getParent().toString(), data.toString())) {
        String place = Path.of(path).relativize(data.resolve("hard-proof.db")).toString();
        estate.take("stores.csv", "key,name,medium,path\nevil,EVIL,disk," + path + "\n");
        estate.take(
            "copies.csv", "point,store,state,format,place\ndb-1,evil,present,sql," + place + "\n");
        for (String method : List.of("read-through", "database", "full-restore")) {
          Answer planned = server
              .as(Role.OPERATOR)
              .post(
                  "/api/drill-plans",
                  "{\"resource\":\"db\",\"point\":\"db-1\",\"store\":\"evil\",\"method\":\""
                      + method + "\"}");
          Answer run = server
              .as(Role.OPERATOR)
              .post(
                  "/api/drill-runs",
                  "{\"resource\":\"db\",\"point\":\"db-1\",\"store\":\"evil\",\"method\":\""
                      + method + "\",\"reason\":\"x\"}");
          estate.installation.queue().runOne();
          String seen = planned.body()
              + run.body()
              + server.as(Role.OPERATOR).get("/api/drill-runs").body();
          assertThat(seen).as(path + " " + method).doesNotContain(secret, "$2a$", "SQLite format");
        }
      }
      assertThat(estate.installation.runs().facts(estate.clock.instant()))
          .as("nothing was read, so nothing is said of the point")
          .noneMatch(f -> f.store().equals("evil") && f.passed());
    }
  }

  @Test
  void aStoreElsewhereIsRefusedWithTheRuleAndHowToAllowIt() throws IOException {
    estate.take("stores.csv", "key,name,medium,path\nfar,FAR,disk,/mnt/far\n");
    estate.take(
        "copies.csv", "point,store,state,format,place\ndb-1,far,present,sqlite,db-1.sqlite\n");
    try (RunningServer server = new RunningServer(estate).with(Role.OPERATOR)) {
      Answer plan = server
          .as(Role.OPERATOR)
          .post("/api/drill-plans", "{\"resource\":\"db\",\"point\":\"db-1\",\"store\":\"far\"}");
      assertThat(plan.json().path("refusal").asString())
          .startsWith("FAR: /mnt/far lies outside of the folders that stores may lie in (")
          .contains(estate.folder.toString(), "--stores /mnt/far", "store-roots");
      assertThat(server.as(Role.OPERATOR).get("/api/integrity").json().path("stores"))
          .anyMatch(s ->
              s.path("store").asString().equals("far") && !s.path("readable").asBoolean());
    }
  }

  @Test
  void theSettingIsReadAndIsTheOwnersAlone() throws IOException {
    DataFolder folder = new DataFolder(estate.folder.resolve("other"));
    folder.keepToOwner();
    Path file = folder.storeRoots();
    Files.writeString(file, "# Our stores\n\n" + estate.store() + "\n");
    Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-------"));
    assertThat(AllowedStores.of(folder, List.of()).allowed())
        .containsExactly(estate.store().toRealPath());
    assertThat(AllowedStores.of(folder, List.of(Path.of("/mnt"))).open("/mnt/x").refusal())
        .isNull();

    Files.writeString(file, "srv/stores\n");
    refused(folder, List.of(), "Line 1 of", "no absolute path");
    Files.writeString(file, "/srv\n");
    for (String rights : List.of("rw--w----", "rw-----w-")) {
      Files.setPosixFilePermissions(file, PosixFilePermissions.fromString(rights));
      refused(folder, List.of(), "others than the owner", "chmod 600");
    }
    Files.delete(file);
    Path elsewhere = Files.writeString(estate.folder.resolve("elsewhere"), "/\n");
    Files.createSymbolicLink(file, elsewhere);
    refused(folder, List.of(), "others than the owner");
    Files.delete(file);
    for (Path inside : List.of(folder.root(), folder.root().resolve("packs"))) {
      refused(folder, List.of(inside), "can't lie in the data folder", "--stores");
    }
    // Only the demo's own stores lie there.
    assertThat(AllowedStores.of(folder, List.of(folder.demo()))
            .open(folder.demo().resolve("x").toString())
            .refusal())
        .isNull();
  }

  private static void refused(DataFolder folder, List<Path> given, String... words) {
    assertThatThrownBy(() -> AllowedStores.of(folder, given))
        .isInstanceOf(AllowedStores.NotAllowed.class)
        .hasMessageContainingAll(words);
  }

  /** Password hashes, keys and restored data are in there; also what an older version made open. */
  @Test
  void theDataFolderIsItsOwnersAlone() throws IOException {
    DataFolder folder = new DataFolder(estate.folder.resolve("old"));
    Files.createDirectories(folder.packs());
    Files.createDirectories(folder.sandboxes());
    Files.writeString(folder.database().resolveSibling("note"), "");
    open(folder.root(), "rwxr-xr-x");
    open(folder.packs(), "rwxrwxrwx");
    open(folder.root().resolve("note"), "rw-rw-rw-");
    Installation.open(folder, Clock.systemUTC()).close();
    try (Stream<Path> list = Files.list(folder.root())) {
      List<Path> inside = list.toList();
      assertThat(inside).contains(folder.packs(), folder.database());
      for (Path path : inside) {
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(path)))
            .as(path.toString())
            .isEqualTo(Files.isDirectory(path) ? "rwx------" : "rw-------");
      }
    }
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(folder.root())))
        .isEqualTo("rwx------");
  }

  private static void open(Path path, String rights) throws IOException {
    Files.setPosixFilePermissions(path, PosixFilePermissions.fromString(rights));
  }
}
