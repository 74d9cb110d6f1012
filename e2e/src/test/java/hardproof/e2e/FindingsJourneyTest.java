package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/** Find, act, and see the finding close; try a standard; bring in somebody else's export. */
class FindingsJourneyTest extends WithDemo {
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
    browser.sees("causes are open");
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
    browser.sees("On the facts of now: 104 met, 0 not met");
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

  /** One selector narrows Findings and Board; it is built in place and stands in the address. */
  @Test
  void screensAreNarrowedByASelector() throws IOException {
    try (Browser auditor = as("Maren Tveit")) {
      auditor.open("/findings");
      auditor.sees("causes are open");
      auditor.click("which resources");
      auditor.click("add a condition");
      WebElement values = auditor.find("[aria-label='Values of condition 1']");
      values.sendKeys("4", Keys.ENTER);
      auditor.sees("tier is 4");
      auditor.click("Show these");
      auditor.sees("only tier is 4");
      auditor.until(
          "only findings of tier 4",
          d -> !auditor.all(".finding-line.one").isEmpty()
              && auditor.all(".finding-line.one").stream()
                  .allMatch(line -> line.findElements(By.cssSelector("[role=gridcell]"))
                      .get(2)
                      .getText()
                      .equals("4")));
      String query = auditor.url().substring(auditor.url().indexOf('?'));
      assertThat(query).contains("which=");
      auditor.open("/board" + query);
      auditor.sees("only tier is 4");
      auditor.sees("Museum archive");
      auditor.noLongerSees("Seat sales");
      auditor.find("[aria-label='All resources again']").click();
      // Which rows of a long list are in view, the hour tells.
      auditor.sees("27 of 27");
      auditor.noLongerSees("only tier is 4");
      assertThat(auditor.complaints()).isEmpty();
    }
  }

  @Test
  void findingsAreMarkedByKeysAndHandedOver() throws IOException {
    browser.open("/findings?find=bridge-sim");
    browser.sees("No cover at all");
    browser.press("j");
    browser.until("the row has the focus", d -> (Boolean)
        browser.script("return document.activeElement.classList.contains('finding-line')"));
    browser.press("x");
    browser.sees("1 marked");
    browser.click("Hand over");
    browser.type("To", "somebody");
    browser.click("Leave as mail");
    browser.sees("is not one mail address; write it as name@example.org");
    browser.type("To", "sven@tarnwick.example");
    browser.type("What to say with it", "Yours, I think");
    browser.click("Leave as mail");
    browser.sees("in the mail folder, for sven@tarnwick.example.");
    try (Stream<Path> mails = Files.list(folder.resolve("data/mail"))) {
      assertThat(mails)
          .anySatisfy(m -> assertThat(Files.readString(m))
              .contains("To: sven@tarnwick.example")
              .contains("Yours, I think"));
    }
    browser.open("/findings?find=bridge-sim&state=looked");
    browser.sees("looked at");
    browser.sees("bridge-sim");
  }

  @Test
  void aLinkToAFindingOpensItWhateverTheListAsksFor() {
    browser.open("/findings?find=bridge-sim&finding=fresh-exposure-now:camera-south");
    browser.sees("What happened to it");
    browser.sees("camera-south");
    browser.open("/findings?finding=fresh-exposure-now:nobody");
    browser.sees("There is no such finding any more");
  }

  @Test
  void aPolicyOfOurOwnIsTriedKeptAndChanged() {
    browser.open("/criteria?part=policies");
    browser.click("New policy");
    browser.type("Key", "own-first");
    browser.type("Name", "First tier, daily");
    browser.type("Schedule", "whenever");
    browser.sees("is no schedule; write an interval such as 24h");
    browser.type("Schedule", "24h");
    browser.click("add a condition");
    browser.find("[aria-label='Values of condition 1']").sendKeys("1", Keys.ENTER);
    browser.sees("tier is 1");
    browser.until(
        "it is tried with its scope",
        d -> browser.text().matches("(?s).*\\b1?\\d resources in scope\\. If it held now.*"));
    browser.click("Keep");
    browser.sees("First tier, daily");
    browser.sees("written here");
    browser.click("Change");
    browser.sees("Change First tier, daily");
    browser.type("Schedule", "12h");
    browser.click("Keep");
    browser.noLongerSees("Change First tier, daily");
  }

  @Test
  void aCriterionOfOurOwnHoldsWhenItIsPutInForce() throws IOException {
    try (Browser administrator = as("Edda Roke")) {
      administrator.open("/criteria?part=own");
      administrator.sees("Write one");
      administrator.type("Code", "own-harbours");
      administrator.type("Title", "No harbour simulators");
      administrator.type("What it demands, in one sentence", "It is no simulator of a harbour.");
      administrator.type(
          "Expression (CEL): true where it is met", "!name.startsWith('harbour-sim')");
      administrator.sees("On the facts of now:");
      administrator.click("Add to the draft");
      administrator.script("const i = document.querySelector('[aria-label=\"What changed\"]');"
          + "i.value = 'harbours'; i.dispatchEvent(new Event('input'))");
      administrator.script("const i = document.querySelector('[aria-label^=\"Name;\"]');"
          + "i.value = 'Harbours'; i.dispatchEvent(new Event('input'))");
      administrator.click("Save as a new version");
      administrator.sees("Saved as Harbours 1. It holds when it is put in force.");
      administrator.click("Put in force");
      administrator.sees("Harbours 1 (in force)");
      administrator.open("/findings?find=No harbour simulators");
      administrator.sees("harbour-sim-4");
      administrator.open("/criteria");
      administrator.sees("Harbours 1 (in force)");
      administrator.script(
          "const s = document.querySelector('[aria-label=\"Standard and version\"]');"
              + "s.value = 'Default 2'; s.dispatchEvent(new Event('change'))");
      administrator.click("Put in force");
      administrator.sees("Default 2 (in force)");
    }
  }

  @Test
  void aMonthIsSeenFromItsEnd() {
    browser.open("/insights");
    browser.sees("What moved");
    browser.find("button.as-at").click();
    // It takes the focus when it opens; what is typed before would go there.
    browser.until(
        "the day has the focus",
        d -> "Day"
            .equals(
                browser.script("return document.activeElement.labels?.[0]?.textContent.trim()")));
    browser.type("First day", "02022031");
    browser.sees("The period is still to come");
    String month = Instant.now()
        .atOffset(ZoneOffset.UTC)
        .minusMonths(1)
        .format(DateTimeFormatter.ofPattern("MMMM uuuu", Locale.ENGLISH));
    browser.click(month);
    browser.until(
        "the month is what is seen",
        d -> browser.find("button.as-at").getText().equals("As at " + month + ", in hindsight"));
    assertThat(browser.url()).contains("from=").contains("asAt=");
    browser.find("button.as-at").click();
    browser.click("Now");
    browser.until("now", d -> browser.find("button.as-at").getText().equals("As at now"));
  }
}
