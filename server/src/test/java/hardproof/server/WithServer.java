package hardproof.server;

import hardproof.server.people.Role;
import java.io.IOException;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** One running server for all tests of a class, with an auditor and an administrator. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
public abstract class WithServer {
  protected RunningServer server;

  /** The auditor's. */
  protected RunningServer.Client client;

  @BeforeAll
  void startServer(@TempDir Path folder) throws IOException {
    server = new RunningServer(folder).with(Role.AUDITOR).with(Role.ADMINISTRATOR);
    client = server.as(Role.AUDITOR);
  }

  @AfterAll
  void stopServer() {
    server.close();
  }
}
