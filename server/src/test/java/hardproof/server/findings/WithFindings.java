package hardproof.server.findings;

import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Client;
import hardproof.server.installation.Installation;
import hardproof.server.people.Role;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** A running server with one resource that nothing covers, and the people who deal with it. */
abstract class WithFindings {
  @TempDir
  protected Path folder;

  protected RunningServer server;
  protected Client operator;
  protected Client auditor;
  protected Client approver;

  @BeforeEach
  void start() throws IOException {
    server = new RunningServer(folder).with(Role.OPERATOR, Role.AUDITOR, Role.APPROVER);
    operator = server.as(Role.OPERATOR);
    auditor = server.as(Role.AUDITOR);
    approver = server.as(Role.APPROVER);
    server.estate.take(
        "policies.csv",
        "key,name,schedule,scope\n"
            + "daily,Daily,24h,\"{\"\"all\"\":[{\"\"field\"\":\"\"key\"\",\"\"in\"\":[\"\"share\"\",\"\"db\"\"]}]}\"\n");
    server.estate.take(
        "resources.csv",
        "key,name,kind,workload,site,environment,first_seen\n"
            + "bare,BARE,database,w,B,test,2026-11-20T00:00:00Z\n");
  }

  @AfterEach
  void stop() {
    server.close();
  }

  protected Installation installation() {
    return server.estate.installation;
  }

  /** Lets time pass, and what is found then be written down. */
  protected void pass(Duration time) {
    server.estate.clock.forward(time);
    installation().logFindings(installation().evaluations().now());
  }

  protected JsonNode findings(String query) {
    return auditor.get("/api/findings" + query).json();
  }

  protected static List<String> keys(JsonNode page) {
    return page.path("rows").valueStream().map(r -> r.path("key").asString()).toList();
  }
}
