package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;

/** Proving in the browser: screens, sweeps, searches, checks, files, sandboxes. */
class ProvingJourneyTest extends WithDemo {
  @Test
  void anUnknownScreenIsSeenAndAccepted() {
    browser.open("/drills");
    browser.sees("waits for somebody who knows its screen");
    browser.sees("Its last screen: its screen is not known");
    browser.until(
        "the picture is shown",
        d -> Boolean.TRUE.equals(
            browser.script("return document.querySelector('.screens img')?.naturalWidth === 960")));
    browser.type("How you know (stands in the evidence)", "Its console on the quay looks so");
    browser.click("Yes, take it as its own");
    browser.sees("Nothing is being proven at this moment");
    browser.open("/drills?tab=done");
    browser.sees("operator says that this screen is right: Its console on the quay looks so");
  }

  @Test
  void aSweepFindsWhatIsDamagedAndSaysWhatHangsFromIt() {
    browser.open("/integrity");
    browser.sees("artifacts with a known place");
    browser.sees("SKERRY DISK");
    browser.sees("no artifact with a known place");
    browser.click("Read back");
    browser.type("Reason (stands in the evidence)", "monthly reading");
    browser.click("Begin the sweep");
    browser.sees("Sweeps done");
    browser.sees("monthly reading");
    browser.find(".damage summary").click();
    browser.sees("Next older good point:");
  }

  /** Begun, due a moment later, drawn, and drawn once more by the server for whoever looks. */
  @Test
  void aProgrammeDrawsItsPointsAndSaysHow() {
    browser.open("/drills?tab=ahead");
    browser.click("New programme");
    browser.type("Name", "Drawn by lot");
    browser.click("add a condition");
    browser.find("input[aria-label='Values of condition 1']").sendKeys("4", Keys.ENTER, Keys.TAB);
    browser.sees("tier is 4");
    choose(3, "by a rule of my own …");
    browser.type(
        "Recurrence rule (RFC 5545)", "FREQ=MINUTELY;BYSECOND=0,5,10,15,20,25,30,35,40,45,50,55");
    choose(5, "one drawn at random");
    browser.type("Of the last (empty: all that are kept)", "3d");
    browser.click("Begin the programme");
    browser.sees("one drawn at random of the last 3 d · not the copy drilled last");
    browser.until("its start is there", d -> {
      browser.open("/drills?tab=ahead");
      browser.sees("What became of the last starts");
      return browser.text().contains("how it was drawn");
    });
    browser.click("End");
    browser.noLongerSees("FREQ=MINUTELY");
    browser.click("how it was drawn");
    browser.sees("drawn again just now with the same result");
    browser.sees("done < candidates.txt | LC_ALL=C sort");
    browser.click("Close");
  }

  /** An option of one of the lists of the form that is open. */
  private void choose(int list, String option) {
    browser.all("[role=dialog] .v-select").get(list).click();
    browser.click(option);
  }

  @Test
  void theLastGoodPointIsLookedForDrillByDrill() {
    browser.open("/drills?tab=done");
    browser.find(".find input").sendKeys("payroll-db");
    browser.until("only payroll", d -> browser.all("details.run").size() < 20);
    browser.find("details.run summary").click();
    browser.click("Find the last good point");
    browser.type("Reason (stands in the evidence)", "could we get payroll back");
    browser.click("Begin the search");
    browser.sees("The last good point is payroll-db-");
    browser.sees("by halving");
  }

  @Test
  void checksAreWrittenTriedAndKept() {
    browser.open("/board?w=lost-property");
    browser.sees("Drill this");
    browser.click("Drill this");
    browser.sees("Checks: asked of what was restored");
    browser.sees("and if it passes show");
    var selects = browser.all("[role=dialog] .v-select");
    selects.get(selects.size() - 1).click();
    browser.click("hold for 1 hour");
    browser.type("Reason (stands in the evidence)", "to have something to try on");
    browser.click("Start the drill");
    browser.sees("Just ended");
    browser.open("/board?w=lost-property");
    browser.click("Drill this");
    browser.sees("Try on what is held");
    browser.click("Try on what is held");
    browser.sees("✓ passes");
    browser.click("Cancel");

    browser.open("/engines");
    browser.sees("ships with Hard Proof");
    browser.sees("held until");
    int before = browser.all("tbody tr td button").size();
    cleanUp("held until");
    browser.until("one sandbox less", d -> browser.all("tbody tr td button").size() == before - 1);
  }

  /** The button of the sandbox whose row says so. */
  private void cleanUp(String state) {
    browser.all("tbody tr").stream()
        .filter(row -> row.getText().contains(state))
        .findFirst()
        .orElseThrow()
        .findElement(By.tagName("button"))
        .click();
  }

  @Test
  void aSandboxThatWasMovedAwayIsNotTakenForCleanedUp() {
    browser.open("/engines");
    browser.sees("clean-up failed: in place of the folder");
    cleanUp("clean-up failed");
    browser.sees("The sandbox can't be removed: in place of the folder");
    browser.sees("remove by hand what was moved there, then the link");
    browser.open("/findings?find=lost-share");
    browser.sees("lost-share");
  }

  @Test
  void filesOfAPointArePickedAndRestoredAlone() {
    browser.open("/board?w=deck-manuals");
    browser.chooseMember("deck-library");
    browser.click("Drill this");
    browser.click("What does this point hold?");
    browser.sees("nothing is restored by looking");
    browser.sees("0 picked");
    browser.find("[role=dialog] input[type=checkbox]").click();
    browser.sees("1 picked");
    browser.click("Restore what is picked");
    browser.sees("A sample shows");
    browser.type("Reason (stands in the evidence)", "one manual is wanted");
    browser.click("Start the drill");
    browser.sees("restored for the sample: 1 file");
    browser.sees("1 restored file");
    assertThat(browser.all(".held details")).isNotEmpty();
  }
}
