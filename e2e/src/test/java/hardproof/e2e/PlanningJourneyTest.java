package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** Planning in the browser: a programme with its nights beside it, the plan, and what an action from it changes. */
class PlanningJourneyTest extends WithDemo {
  /** The nights change as one types, before anything is saved; then it is begun, changed and ended. */
  @Test
  void aProgrammeShowsItsNightsBeforeItIsBegun() {
    browser.open("/drills?tab=ahead");
    browser.sees("no programme drills it");
    browser.click("try what would help");
    browser.sees("What would help, by trying it");
    browser.click("New programme");
    browser.sees("The coming 90 nights with it");
    browser.sees("new drills it in the next night");
    browser.type("Name", "Whatever is needed");
    browser.click("Begin the programme");
    browser.noLongerSees("The coming 90 nights with it");
    browser.sees("Whatever is needed");
    browser.sees("as needed · next");
    browser.sees("Whatever is needed drills it in the next night");
    browser.click("change what there is to drill with");
    browser.type("Drills go on in (empty: all day)", "22:00-06:00");
    browser.click("Keep it");
    browser.sees("Drills go on 22:00-06:00 UTC, 2 at once.");
  }

  /** Whoever takes the first thing of the plan sees the verdict move. */
  @Test
  void anActionOfThePlanMovesAVerdict() {
    browser.open("/board?w=payments-relay");
    browser.sees("30 d allowed; lapsed");
    browser.open("/findings?part=plan");
    browser.sees("drill relay-db");
    browser.sees("1 workload becomes proven");
    assertThat(browser.all("li.step")).as("fewer things than resources").hasSizeLessThan(104);
    // What the sample of yesterday drew by chance is drilled already, and not among them.
    String first = browser.all("li.step").get(0).getText();
    assertThat(first).contains("relay-db", "relay-keys");
    String all = first.substring(first.indexOf("Drill all ")).strip();
    browser.click(all);
    browser.sees(all.substring("Drill all ".length()) + " drills are in the queue");
    browser.open("/board?w=payments-relay");
    browser.sees("all 2 members proven");
  }

  @Test
  void aCalendarAddressIsMadeAndEnded() {
    browser.open("/board");
    browser.click("Tobias Quill");
    browser.click("Calendar address");
    browser.sees("You have none.");
    browser.click("Make an address");
    browser.sees("It is shown only now:");
    browser.sees("/calendars/");
    browser.click("End the address");
    browser.sees("You have none.");
    browser.click("Done");
  }
}
