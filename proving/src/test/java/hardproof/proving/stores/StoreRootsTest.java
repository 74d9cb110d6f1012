package hardproof.proving.stores;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A store lies where this installation allows it, whatever a fact says. */
class StoreRootsTest {
  @TempDir
  Path temp;

  private Path srv;
  private Path data;
  private StoreRoots roots;

  @BeforeEach
  void prepare() throws IOException {
    srv = Files.createDirectory(temp.resolve("srv"));
    data = Files.createDirectories(srv.resolve("hard-proof"));
    Files.writeString(data.resolve("hard-proof.db"), "secret");
    Files.createDirectories(data.resolve("demo/near"));
    Files.writeString(data.resolve("demo/near/x.tar"), "demo");
    Files.createDirectories(srv.resolve("near/deep"));
    Files.writeString(srv.resolve("near/x.tar"), "x");
    Files.writeString(temp.resolve("outside"), "secret");
    roots = StoreRoots.of(List.of(srv, data.resolve("demo")), List.of(data));
  }

  private static String read(ArtifactStore store, String place) throws IOException {
    try (var in = store.open(place)) {
      return new String(in.readAllBytes());
    }
  }

  private static void refusesAsUnread(ArtifactStore store, String place) {
    for (var look : List.<org.assertj.core.api.ThrowableAssert.ThrowingCallable>of(
        () -> store.open(place), () -> store.size(place), () -> store.folder(place))) {
      assertThatThrownBy(look)
          .as(place)
          .isInstanceOfSatisfying(
              ArtifactUnreadable.class, e -> assertThat(e.unjudged()).isTrue())
          .hasMessageNotContaining("secret");
    }
  }

  @Test
  void whatIsAllowedIsRead() throws IOException {
    ArtifactStore near = roots.open(srv.resolve("near").toString());
    assertThat(near.refusal()).isNull();
    assertThat(near.reachable()).isTrue();
    assertThat(read(near, "x.tar")).isEqualTo("x");
    assertThat(read(roots.open(data.resolve("demo/near").toString()), "x.tar")).isEqualTo("demo");
    // Not there is no question of where it may lie.
    ArtifactStore later = roots.open(srv.resolve("later/mount").toString());
    assertThat(later.refusal()).isNull();
    assertThat(later.reachable()).isFalse();
  }

  @Test
  void everyOtherPathIsRefusedWhetherAnythingIsThereOrNot() {
    for (String path : List.of(
        "/",
        "/etc",
        temp.toString(),
        temp.resolve("srv-2").toString(),
        srv + "/../outside",
        data.toString(),
        data.resolve("packs").toString(),
        data.resolve("demo/../keys").toString(),
        "/nowhere/at/all",
        "relative/path")) {
      ArtifactStore store = roots.open(path);
      assertThat(store.refusal())
          .as(path)
          .startsWith(path + " lies outside of the folders that stores may lie in (")
          .contains("--stores " + path, "store-roots");
      assertThat(store.reachable()).as(path).isFalse();
      refusesAsUnread(store, "hard-proof.db");
    }
    assertThat(roots.open("a\0b").refusal()).contains("none that this system can have");
    assertThat(StoreRoots.of(List.of(), List.of(data)).open("/srv").refusal())
        .contains("none is allowed yet");
  }

  /** The data folder may lie inside of an allowed one; nothing in it is read all the same. */
  @Test
  void theDataFolderIsNeverReadFromAbove() {
    ArtifactStore whole = roots.open(srv.toString());
    assertThat(whole.refusal()).isNull();
    for (String place : List.of(
        "hard-proof/hard-proof.db",
        "hard-proof",
        "near/../hard-proof/hard-proof.db",
        "../outside")) {
      refusesAsUnread(whole, place);
    }
  }

  @Test
  void linksAreFollowedBeforeItIsDecided() throws IOException {
    Files.createSymbolicLink(srv.resolve("near/out"), temp.resolve("outside"));
    Files.createSymbolicLink(srv.resolve("near/db"), data.resolve("hard-proof.db"));
    Files.createSymbolicLink(srv.resolve("near/up"), srv);
    Files.createSymbolicLink(srv.resolve("near/same"), Path.of("x.tar"));
    ArtifactStore near = roots.open(srv.resolve("near").toString());
    for (String place : List.of("out", "db", "up", "up/hard-proof/hard-proof.db")) {
      refusesAsUnread(near, place);
    }
    assertThat(read(near, "same")).isEqualTo("x");
    // The store itself may be a link, where it leads to what is allowed.
    Files.createSymbolicLink(srv.resolve("alias"), srv.resolve("near"));
    Files.createSymbolicLink(srv.resolve("to-data"), data);
    Files.createSymbolicLink(temp.resolve("to-near"), srv.resolve("near"));
    assertThat(read(roots.open(srv.resolve("alias").toString()), "x.tar")).isEqualTo("x");
    assertThat(read(roots.open(temp.resolve("to-near").toString()), "x.tar")).isEqualTo("x");
    refusesAsUnread(roots.open(srv.resolve("to-data").toString()), "hard-proof.db");
  }
}
