package hardproof.server.feeds;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class UploadsTest {
  @TempDir
  Path folder;

  private static Uploads.Incoming file(String name, String content) {
    return new Uploads.Incoming(
        name, () -> new ByteArrayInputStream(content.getBytes(StandardCharsets.UTF_8)));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"../../points.csv", "/etc/points.csv", "C:\\x\\points.csv", "a/../points.csv"})
  void aNameCanNotLeaveTheFolder(String name) throws IOException {
    Uploads uploads = new Uploads(folder.resolve("up"));
    String id = uploads.keep("f", List.of(file(name, "x")));
    assertThat(uploads.bundle(id).files()).singleElement().satisfies(m -> {
      assertThat(m.name()).isEqualTo("points.csv");
      assertThat(m.path().normalize()).startsWith(folder.resolve("up").resolve(id));
    });
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "..", "dir/"})
  void aNameThatIsNoneIsReplaced(String name) throws IOException {
    Uploads uploads = new Uploads(folder.resolve("up"));
    assertThat(uploads.bundle(uploads.keep("f", List.of(file(name, "x")))).unknown())
        .singleElement()
        .satisfies(r -> assertThat(r.file()).isEqualTo("unnamed"));
  }

  @Test
  void twoFilesMayHaveTheSameName() throws IOException {
    Uploads uploads = new Uploads(folder.resolve("up"));
    String id = uploads.keep("f", List.of(file("points.csv", "a"), file("points.csv", "b")));
    assertThat(uploads.bundle(id).files()).hasSize(2);
  }

  @Test
  void whatNobodyAcceptedIsRemovedWhenDroppedAndAtTheNextStart() throws IOException {
    Uploads uploads = new Uploads(folder.resolve("up"));
    String dropped = uploads.keep("f", List.of(file("points.csv", "a")));
    uploads.drop(dropped);
    assertThat(uploads.feed(dropped)).isNull();
    uploads.keep("f", List.of(file("points.csv", "a")));
    assertThat(folder.resolve("up")).isNotEmptyDirectory();
    new Uploads(folder.resolve("up"));
    assertThat(Files.exists(folder.resolve("up"))).isFalse();
  }

  /** What can't be kept whole leaves nothing, and every file that was opened is closed. */
  @Test
  void anUploadThatFailsLeavesNothing() throws IOException {
    Uploads uploads = new Uploads(folder.resolve("uploads"));
    java.util.concurrent.atomic.AtomicInteger open =
        new java.util.concurrent.atomic.AtomicInteger();
    Uploads.Incoming broken = new Uploads.Incoming("points.csv", () -> {
      open.incrementAndGet();
      return new java.io.InputStream() {
        private int given;

        @Override
        public int read() throws IOException {
          if (given++ > 10) {
            throw new IOException("No space left on device");
          }
          return 'x';
        }

        @Override
        public void close() {
          open.decrementAndGet();
        }
      };
    });
    org.assertj.core.api.Assertions.assertThatThrownBy(
            () -> uploads.keep("f", List.of(file("stores.csv", "key"), broken)))
        .hasMessageContaining("No space left");
    assertThat(open).hasValue(0);
    assertThat(folder.resolve("uploads")).isEmptyDirectory();
  }
}
