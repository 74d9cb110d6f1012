package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import org.junit.jupiter.api.Test;

/**
 * From an empty installation to the first verdicts on files that nobody exports, as GNU tar and sha256sum leave them, without
 * writing a line.
 */
class LookingInTest extends WithOffice {
  private static final DateTimeFormatter STAMP =
      DateTimeFormatter.ofPattern("yyyyMMdd-HHmm").withZone(ZoneOffset.UTC);

  private Path files() throws Exception {
    Path store = Files.createDirectories(folder.resolve("store"));
    Path tree = Files.createDirectories(folder.resolve("tree/wages"));
    Files.writeString(tree.resolve("week.txt"), "wages of a week\n".repeat(500));
    for (int day = 4; day >= 0; day--) {
      Instant at = Instant.now().minus(Duration.ofDays(day)).minus(Duration.ofHours(2));
      for (String name : new String[] {"wages", "ledger"}) {
        String file = name + "-" + STAMP.format(at) + ".tar.gz";
        run(folder.resolve("tree"), "tar", "-czf", store.resolve(file).toString(), "wages");
        run(store, "touch", "-d", at.plusSeconds(240).toString(), file);
        Files.writeString(store.resolve(file + ".sha256"), run(store, "sha256sum", file));
      }
    }
    return store;
  }

  @Test
  void aStoreIsLookedIntoAndTheBoardHasVerdicts() throws Exception {
    Path store = files();
    firstAdministrator();
    browser.sees("Where are your backups?");
    assertThat(browser.barriers()).isEmpty();
    browser.type("Call it", "Quay disk");
    browser.type("Path", store.toString());
    browser.click("Look into it");
    browser.sees("20 files on Quay disk looked at: 1 way of naming.");
    browser.sees("2 resources: ledger, wages. 10 files, one every 24 h");
    browser.sees("10 files hold checksums of others.");
    assertThat(browser.barriers()).isEmpty();
    browser.click("Follow Quay disk from now on");
    browser.sees("0 of 2 workloads");
    browser.sees("Nobody said how much 2 of them matter");
    browser.open("/feeds/stores");
    browser.sees("10 of 10 claimed copies are there as claimed");
    browser.click("What differs");
    browser.sees("each of them as claimed");
    assertThat(browser.barriers()).isEmpty();

    Files.writeString(store.resolve("left-over.iso"), "nobody's");
    browser.click("List it now");
    browser.sees("1 file that no feed tells of");
    browser.open("/findings?finding=store-untold:quay-disk");
    browser.sees("1 of 21 files on Quay disk is told of by no feed (8 B)");
    browser.click("What lies on Quay disk");
    browser.sees("left-over.iso");
    assertThat(browser.complaints()).isEmpty();
  }

  /** That it comes up whole is not waited for: it is the same demo that the other tests are in. */
  @Test
  void theDemoIsBegunByAButton() throws Exception {
    firstAdministrator();
    browser.click("Start the demo");
    browser.sees("Making the demo estate");
    assertThat(browser.barriers()).isEmpty();
    browser.click("Stop");
    browser.sees("Start the demo");
    assertThat(browser.complaints()).isEmpty();
  }

  @Test
  void aPathThatMayNotBeReadIsSaidAndNothingIsKept() throws Exception {
    firstAdministrator();
    browser.type("Call it", "Elsewhere");
    browser.type("Path", "/etc");
    browser.click("Look into it");
    browser.sees("/etc lies outside of the folders that stores may lie in");
    browser.open("/feeds/stores");
    browser.sees("No store is known yet.");
  }
}
