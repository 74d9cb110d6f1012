package hardproof.server.stores;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SecretsTest {
  @TempDir
  Path folder;

  @Test
  void aSecretOpensForItsStoreAloneAndNeverLooksTheSame() throws Exception {
    Secrets secrets = new Secrets(folder);
    byte[] sealed = secrets.seal("north", "through the water ü");
    assertThat(secrets.open("north", sealed)).isEqualTo("through the water ü");
    assertThat(new String(sealed, StandardCharsets.ISO_8859_1)).doesNotContain("water");
    assertThat(secrets.seal("north", "through the water ü")).isNotEqualTo(sealed);
    assertThat(new Secrets(folder).open("north", sealed)).isEqualTo("through the water ü");
    assertThatThrownBy(() -> secrets.open("south", sealed)).isInstanceOf(Secrets.Sealed.class);
    sealed[20] ^= 1;
    assertThatThrownBy(() -> secrets.open("north", sealed)).isInstanceOf(Secrets.Sealed.class);
    assertThatThrownBy(() -> secrets.open("north", new byte[3])).isInstanceOf(Secrets.Sealed.class);
  }

  @Test
  void theKeyIsItsOwnersAndWithoutItNothingOpens() throws Exception {
    Secrets secrets = new Secrets(folder);
    byte[] sealed = secrets.seal("north", "x");
    Path key = folder.resolve("stores.key");
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(key)))
        .isEqualTo("rw-------");
    Files.delete(key);
    assertThatThrownBy(() -> secrets.open("north", sealed))
        .hasMessageContaining("Give it anew under Stores");
    assertThat(key).doesNotExist();
  }
}
