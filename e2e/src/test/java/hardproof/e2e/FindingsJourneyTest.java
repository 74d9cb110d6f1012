package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/** Find, act, and see the finding close; try a standard; bring in somebody else's export. */
class FindingsJourneyTest {
  @TempDir
  static Path folder;

  private static Application application;
  private static Browser browser;

  @BeforeAll
  static void start() throws IOException {
    application = Application.start(folder.resolve("data"), true);
    browser = as("Tobias Quill");
  }

  private static Browser as(String person) throws IOException {
    Browser opened = new Browser(application.address(), Files.createTempDirectory(folder, "b"));
    opened.open("/");
    opened.click(person);
    opened.sees("workloads are proven");
    return opened;
  }

  @AfterAll
  static void stop() {
    browser.close();
    application.close();
  }

  @Test
  void aMachineWithoutCoverIsFoundPutUnderAPolicyAndCloses() throws IOException {
    browser.open("/findings?find=harbour-sim-4");
    browser.sees("No cover at all");
    browser.find(".finding-line.one").click();
    browser.sees("harbour-sim-4 was first seen 9 d 03 h ago, matches no policy");
    browser.sees("What happened to it");
    browser.press(Keys.ESCAPE);
    browser.click("Put under a policy");
    browser.sees("Put 1 resource under a policy");
    browser.find(".v-dialog .v-select").click();
    browser.until("the policies", d -> {
      for (WebElement e : browser.all(".v-list-item")) {
        if (e.isDisplayed() && e.getText().startsWith("Daily (")) {
          e.click();
          return true;
        }
      }
      return null;
    });
    browser.sees("harbour-sim-4: the first point by");
    browser.type("Why", "It was forgotten when it was set up");
    browser.click("Put under it");
    browser.sees("1 resource is under Daily now.");
    browser.sees("is in the scope of Daily but no recovery point has been made of it");

    Instant now = Instant.now().truncatedTo(ChronoUnit.SECONDS);
    Path points = folder.resolve("points.csv");
    Files.writeString(
        points,
        "key,resource,form,data_time,available,outcome\nharbour-1,harbour-sim-4,full,"
            + now.minus(Duration.ofMinutes(20)) + "," + now.minus(Duration.ofMinutes(5))
            + ",complete\n");
    browser.open("/feeds");
    browser.type("Feed the files come from", "by hand");
    browser.choose(List.of(points));
    browser.click("Take 1 row");
    browser.sees("1 row taken from 1 file.");
    browser.open("/findings?find=harbour-sim-4&group=criterion");
    browser.sees("findings are open");
    browser.until(
        "it is closed",
        d -> browser.all(".groups button").stream()
            .noneMatch(b -> b.getText().startsWith("Cover: Covered")));
  }

  @Test
  void onePersonProposesAnExceptionAndAnotherApprovesIt() throws IOException {
    try (Browser auditor = as("Maren Tveit");
        Browser approver = as("Ingrid Solheim")) {
      auditor.open("/findings?find=tickets-spool");
      auditor.sees("No cover at all");
      auditor.find(".finding-line.one").click();
      auditor.click("Except");
      auditor.type("Why", "Print spool, made anew every night");
      auditor.click("Propose");
      auditor.sees("Proposed for 1 resource");
      approver.open("/criteria?part=exceptions");
      approver.sees("Print spool, made anew every night");
      approver.click("Approve");
      approver.sees("approved by approver");
      auditor.open("/findings?find=tickets-spool&state=excepted");
      auditor.sees("accepted");
      auditor.sees("tickets-spool");
    }
  }

  @Test
  void aStandardIsTriedBeforeItIsSaved() throws IOException {
    try (Browser administrator = as("Edda Roke")) {
      administrator.open("/criteria");
      administrator.sees("If this held now");
      administrator.script("const i = document.querySelector('[aria-label=\"RPO, tier 1\"]');"
          + "i.value = '1m'; i.dispatchEvent(new Event('change'))");
      administrator.sees("would turn");
      administrator.sees("exposed");
      administrator.script("const i = document.querySelector('[aria-label=\"What changed\"]');"
          + "i.value = 'a minute'; i.dispatchEvent(new Event('input'))");
      administrator.click("Save as a new version");
      administrator.sees("Saved as Default 3. It holds when it is put in force.");
      administrator.open("/board");
      administrator.sees("workloads are proven");
      assertThat(administrator.text()).doesNotContain("Default 3");
    }
  }

  @Test
  void anExpressionIsCheckedWhereItIsWrong() {
    browser.open("/criteria?part=own");
    browser.sees("Write one");
    browser.type("Code", "own-two-regions");
    browser.type("Title", "In Nordal");
    browser.type("What it demands, in one sentence", "It stands in Nordal.");
    browser.type("Expression (CEL): true where it is met", "region = 'nordal'");
    browser.sees("line 1, column");
    browser.type("Expression (CEL): true where it is met", "region == 'nordal'");
    browser.sees("On the facts of now: 52 met, 0 not met");
  }

  @Test
  void aPeriodSaysWhatMovedInIt() {
    browser.open("/insights");
    browser.sees("Tier 1: the promised limit of data loss was kept");
    browser.sees("What moved");
    browser.click("a week");
    browser.until("the week is in the address", d -> browser.url().contains("from="));
    browser.sees("Gaps");
  }
}
