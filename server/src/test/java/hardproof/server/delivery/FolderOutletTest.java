package hardproof.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.wording.WrongValue;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class FolderOutletTest {
  private static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");

  @TempDir
  Path folder;

  private Parcel parcel(String to) throws Exception {
    Path file = Files.writeString(folder.resolve("made"), "head");
    return new Parcel(
        "p",
        to,
        "s",
        "b",
        "{}",
        List.of(new Parcel.Enclosed("head-7.json", "application/json", file)));
  }

  @Test
  void theFilesLieThereWhole() throws Exception {
    FolderOutlet outlet = new FolderOutlet(folder.resolve("outbox"));
    outlet.deliver(parcel("witness"), NOW);
    outlet.deliver(parcel("witness"), NOW);
    try (var left = Files.list(folder.resolve("outbox/witness"))) {
      assertThat(left)
          .singleElement()
          .satisfies(f -> assertThat(f).hasFileName("head-7.json").hasContent("head"));
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"", "..", ".", "../elsewhere", "a/b", "/etc", "a\\b", "a\u0000", "-x", "ü"})
  void aNameThatLeadsElsewhereIsRefused(String name) {
    assertThatThrownBy(() -> FolderOutlet.name(name)).isInstanceOf(WrongValue.class);
  }

  @Test
  void whereAFileIsInTheWayItIsSaid() throws Exception {
    Files.writeString(folder.resolve("outbox"), "a file");
    assertThatThrownBy(() -> new FolderOutlet(folder.resolve("outbox")).deliver(parcel("x"), NOW))
        .isInstanceOf(Outlet.NotTaken.class)
        .hasMessageContaining("the outbox can't be written");
  }
}
