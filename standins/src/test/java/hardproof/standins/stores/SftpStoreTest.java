package hardproof.standins.stores;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assumptions.assumeThat;

import hardproof.core.wording.WrongValue;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import hardproof.proving.stores.Listed;
import hardproof.proving.stores.SftpAddress;
import hardproof.proving.stores.SftpKey;
import hardproof.proving.stores.SftpStore;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** SFTP against the stand-in, and against the server of OpenSSH where it is installed. */
class SftpStoreTest {
  private static KeyPair hostKey;

  @TempDir
  Path temp;

  private Path folder;
  private SftpStandIn standIn;
  private SftpStore store;

  @BeforeAll
  static void key() throws Exception {
    KeyPairGenerator generator = KeyPairGenerator.getInstance("RSA");
    generator.initialize(2048);
    hostKey = generator.generateKeyPair();
  }

  @BeforeEach
  void start() throws IOException {
    folder = Files.createDirectories(temp.resolve("host/srv/backups"));
    standIn = SftpStandIn.start(temp.resolve("host"), "auditor", "only-reads", hostKey, 0);
    store = store("only-reads", standIn.hostKeyLine());
  }

  @AfterEach
  void stop() {
    store.close();
    standIn.close();
  }

  private SftpStore store(String password, String hostKeys) {
    return new SftpStore(
        SftpAddress.of("127.0.0.1", standIn.port(), "auditor", "/srv/backups/", hostKeys),
        new SftpKey(password, null, null));
  }

  private void put(String place, String content) throws IOException {
    Path file = folder.resolve(place);
    Files.createDirectories(file.getParent());
    Files.writeString(file, content);
    Files.setLastModifiedTime(file, FileTime.from(Instant.parse("2026-11-20T03:10:00Z")));
  }

  private static String text(InputStream in) throws IOException {
    try (in) {
      return new String(in.readAllBytes());
    }
  }

  private static List<String> places(SftpStore of) throws ArtifactUnreadable {
    List<Listed> all = new ArrayList<>();
    of.list(all::add);
    return all.stream().map(Listed::place).sorted().toList();
  }

  @Test
  void filesAndFoldersAreRead() throws Exception {
    put("db.dump", "twelve bytes");
    put("set/a/b.txt", "one");
    Files.createSymbolicLink(folder.resolve("set/link"), Path.of("a/b.txt"));
    assertThat(store.away()).isNull();
    assertThat(store.size("db.dump")).isEqualTo(12);
    assertThat(text(store.open("db.dump"))).isEqualTo("twelve bytes");
    assertThat(store.size("set")).isEqualTo(3);
    assertThat(store.folder("set").files()).containsExactly("a/b.txt");
    assertThat(store.folder("set").folders()).containsExactly("a");
    assertThat(store.folder("set").specials()).singleElement().satisfies(s -> {
      assertThat(s.path()).isEqualTo("link");
      assertThat(s.target()).isEqualTo("a/b.txt");
    });
    assertThat(store.folder("set").attributes("a/b.txt").modified())
        .isEqualTo("2026-11-20T03:10:00Z");
    assertThat(text(store.folder("set").open("a/b.txt"))).isEqualTo("one");
    assertThat(places(store)).containsExactly("db.dump", "set/a/b.txt");
    assertThat(store.protection("db.dump").known()).isFalse();
  }

  @Test
  void aLinkThatLeadsOutIsNotFollowed() throws Exception {
    Files.writeString(temp.resolve("host/secret"), "not a backup");
    Files.createSymbolicLink(folder.resolve("out"), temp.resolve("host/secret"));
    for (String place : List.of("out", "../../secret", "/secret")) {
      assertThatThrownBy(() -> store.open(place))
          .as(place)
          .isInstanceOfSatisfying(
              ArtifactUnreadable.class, e -> assertThat(e.unjudged()).isTrue());
    }
    assertThat(places(store)).isEmpty();
  }

  @Test
  void aMissingFileIsTheFailureOfTheCopy() {
    assertThatThrownBy(() -> store.open("gone"))
        .isInstanceOfSatisfying(
            ArtifactUnreadable.class, e -> assertThat(e.unjudged()).isFalse())
        .hasMessage("gone is not on the store");
  }

  @Test
  void aHostThatGoesAwayWhileItIsReadSaysNothingOfTheData() throws Exception {
    Files.write(folder.resolve("big"), new byte[5_000_000]);
    try (InputStream in = store.open("big")) {
      in.readNBytes(10);
      standIn.close();
      assertThatThrownBy(in::readAllBytes)
          .isInstanceOfSatisfying(
              ArtifactUnreadable.class, e -> assertThat(e.unjudged()).isTrue());
    }
  }

  @Test
  void anotherHostKeyIsRefusedWithBothNamed() throws Exception {
    String other = "[127.0.0.1]:" + standIn.port()
        + " ssh-ed25519 AAAAC3NzaC1lZDI1NTE5AAAAIKjGpJtDFtWjvR1rJZdQz4vGqGv3c1F9rZr8k5o6w0gk";
    try (SftpStore changed = store("only-reads", other)) {
      assertThat(changed.away())
          .contains("it shows the key SHA256:")
          .contains("is not the one that is pinned");
    }
    try (SftpStore wrong = store("guessed", standIn.hostKeyLine())) {
      assertThat(wrong.away()).contains("does not let auditor in").doesNotContain("guessed");
    }
    SftpStore.Shown shown = SftpStore.shownBy("127.0.0.1", standIn.port());
    assertThat(shown.line()).isEqualTo(standIn.hostKeyLine());
    assertThat(shown.fingerprint()).startsWith("SHA256:");
    int port = standIn.port();
    standIn.close();
    assertThatThrownBy(() -> SftpStore.shownBy("127.0.0.1", port))
        .isInstanceOf(WrongValue.class)
        .hasMessageContaining("shows no key");
    assertThat(store.away()).contains("nothing listens there");
  }

  @Test
  void whatIsNoAddressIsRefused() {
    assertThatThrownBy(() -> SftpAddress.of("a host", 22, "u", "/x", "k"))
        .hasMessageContaining("is no host");
    assertThatThrownBy(() -> SftpAddress.of("host", 0, "u", "/x", "k"))
        .hasMessageContaining("a port is");
    assertThatThrownBy(() -> SftpAddress.of("host", 22, " ", "/x", "k"))
        .hasMessageContaining("as whom");
    assertThatThrownBy(() -> SftpAddress.of("host", 22, "u", "x", "k"))
        .hasMessageContaining("from the root");
    assertThatThrownBy(() -> SftpAddress.of("host", 22, "u", "/x/../y", "k"))
        .hasMessageContaining("from the root");
    assertThatThrownBy(() -> SftpAddress.of("host", 22, "u", "/x", ""))
        .hasMessageContaining("pretend");
    assertThatThrownBy(() -> new SftpStore(
            SftpAddress.of("host", 22, "u", "/x", "k"), new SftpKey(null, "no key", null)))
        .isInstanceOf(WrongValue.class);
  }

  /** As other people's server has it: keys by ssh-keygen, several host keys of which one is pinned. */
  @Test
  void theServerOfOpenSshIsReadByKey() throws Exception {
    assumeThat(Path.of("/usr/sbin/sshd")).exists();
    try (OpenSsh ssh = OpenSsh.start(temp.resolve("ssh"))) {
      Path real = Files.createDirectories(temp.resolve("real"));
      byte[] content = new byte[3_000_000];
      new java.util.Random(3).nextBytes(content);
      Files.write(real.resolve("disk ü.img"), content);
      for (String kind : List.of("ed25519", "rsa")) {
        try (SftpStore open = new SftpStore(
            SftpAddress.of("127.0.0.1", ssh.port(), ssh.user(), real.toString(), ssh.pinned(kind)),
            new SftpKey(null, ssh.privateKey(), OpenSsh.PASSPHRASE))) {
          assertThat(open.away()).as(kind).isNull();
          assertThat(places(open)).containsExactly("disk ü.img");
          try (InputStream in = open.open("disk ü.img")) {
            byte[] begin = in.readNBytes(1000);
            assertThat(begin).isEqualTo(java.util.Arrays.copyOf(content, 1000));
            assertThat(in.skip(2_000_000)).isEqualTo(2_000_000);
            assertThat(in.readAllBytes())
                .isEqualTo(java.util.Arrays.copyOfRange(content, 2_001_000, content.length));
          }
        }
      }
      try (SftpStore wrong = new SftpStore(
          SftpAddress.of(
              "127.0.0.1", ssh.port(), ssh.user(), real.toString(), ssh.pinned("ed25519")),
          new SftpKey("no password is asked for", null, null))) {
        assertThat(wrong.away()).contains("does not let");
      }
      assertThatThrownBy(() -> new SftpStore(
              SftpAddress.of("h", 22, "u", "/x", "k"),
              new SftpKey(null, ssh.privateKey(), "another phrase")))
          .isInstanceOf(WrongValue.class)
          .hasMessageContaining("passphrase");
    }
  }
}
