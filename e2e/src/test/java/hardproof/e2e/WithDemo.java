package hardproof.e2e;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** One running demo for all tests of a class, in which its operator has signed in. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
abstract class WithDemo {
  Path folder;
  Application application;

  /** The operator's. */
  Browser browser;

  @BeforeAll
  void start(@TempDir Path root) throws IOException {
    folder = root;
    application = Application.start(folder.resolve("data"), true);
    browser = as("Tobias Quill");
  }

  /** Another browser, in which somebody else has signed in. */
  Browser as(String person) throws IOException {
    Browser opened = new Browser(application.address(), Files.createTempDirectory(folder, "b"));
    opened.open("/");
    opened.click(person);
    opened.sees("workloads are proven");
    return opened;
  }

  @AfterAll
  void stop() {
    if (browser != null) {
      browser.close();
    }
    if (application != null) {
      application.close();
    }
  }
}
