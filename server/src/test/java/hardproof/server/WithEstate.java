package hardproof.server;

import java.io.IOException;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** A fresh, filled {@link Estate} for each test. */
public abstract class WithEstate {
  @TempDir
  protected Path folder;

  protected Estate estate;

  @BeforeEach
  void openEstate() throws IOException {
    estate = new Estate(folder).filled();
  }

  @AfterEach
  void closeEstate() {
    estate.close();
  }
}
