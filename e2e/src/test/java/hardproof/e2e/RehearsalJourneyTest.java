package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Whole workloads brought back in the browser: databases of two engines, a directory, an application, a machine, files. */
class RehearsalJourneyTest extends WithDemo {
  @BeforeAll
  static void needsPostgres() throws IOException {
    assumeTrue(postgresIsHere(), "PostgreSQL is not installed");
  }

  private static boolean postgresIsHere() throws IOException {
    Path versions = Path.of("/usr/lib/postgresql");
    if (!Files.isDirectory(versions)) {
      return false;
    }
    try (Stream<Path> all = Files.list(versions)) {
      return all.anyMatch(v -> Files.isExecutable(v.resolve("bin/initdb")));
    }
  }

  private void choose(int list, String option) {
    browser.all("[role=dialog] .v-select").get(list).click();
    browser.click(option);
  }

  private void rehearse(String reason, String stay) {
    browser.sees("what is up stays up until the end");
    choose(1, stay);
    browser.type("Reason (stands in the evidence)", reason);
    browser.click("Start the rehearsal");
  }

  /** All nine come up, one is killed while they stay up together, and the whole has failed by it. */
  @Test
  void aMemberThatIsKilledInTheMiddleFailsTheWholeAndIsNamed() {
    browser.open("/board?w=seat-sales");
    browser.click("Rehearse the whole");
    browser.sees("Rehearse Seat sales");
    rehearse("Does it come back?", "1 minute more");
    browser.until(
        "all are up",
        Duration.ofMinutes(2),
        d -> browser.text().contains("all are up, and stay up together"));
    browser.sees("9 of 9 members are up");
    List<ProcessHandle> servers = ProcessHandle.allProcesses()
        .filter(p -> p.info().commandLine().orElse("").contains(folder.toString()))
        .filter(p -> p.info().command().orElse("").endsWith("postgres"))
        .toList();
    assertThat(servers).as("the server of relay-ledger runs").isNotEmpty();
    servers.forEach(ProcessHandle::destroyForcibly);
    browser.until(
        "it has ended",
        Duration.ofMinutes(2),
        d -> browser.text().contains("relay-ledger: the database does not answer any more"));
    browser.sees("8 of 9 members came up");
    assertThat(browser.find("article").getText())
        .as("the newest stands first")
        .contains("8 of 9 members came up")
        .doesNotContain("It shows the workload rehearsed");
    browser.open("/drills?tab=done");
    browser.sees("relay-ledger");
  }

  /** The claim that it survives is computed first, and rehearsed then. */
  @Test
  void theLossOfASiteIsRehearsedFromWhatIsLeft() {
    browser.open("/survival");
    browser.sees("If we lost production alone");
    browser.click("Skerry Point");
    browser.sees("If we lost site Skerry Point");
    browser.find("[aria-label='Rehearse Seat sales from what is left']").click();
    browser.sees("From what is left after the loss of site Skerry Point only");
    browser.sees("what is up stays up until the end");
    assertThat(browser.find("[role=dialog] .tide").getText())
        .contains("HOLM DISK")
        .doesNotContain("SKERRY");
    rehearse("As if the quay burned", "not after the last check");
    browser.until(
        "it has ended",
        Duration.ofMinutes(2),
        d -> browser.text().contains("It shows the workload rehearsed"));
    browser.sees("From what the loss of site Skerry Point leaves");
    browser.sees("made while it ran");
    browser.open("/survival");
    browser.click("Skerry Point");
    browser.sees("If we lost site Skerry Point");
    browser.sees("survivors were rehearsed from what would be left");
    browser.until(
        "it is rehearsed, and says when",
        Duration.ofMinutes(1),
        d -> browser.all("[aria-label='Rehearse Seat sales from what is left']").isEmpty());
  }

  @Test
  void thePastOfTheDemoHasOneThatTookTooLong() {
    browser.open("/board?w=fuel-ledger");
    browser.sees("Last rehearsed");
    browser.click("Planned beside measured");
    browser.sees(
        "All 3 members were back in their order in 3 h 10 m, 1 h 10 m over the RTO of 2 h");
    browser.sees("fuel-db set the time: 1 h 35 m of it");
    browser.sees("It took longer than it may");
  }
}
