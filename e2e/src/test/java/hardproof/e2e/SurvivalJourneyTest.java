package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.openqa.selenium.Keys;

/** Losses and ways back in the browser. */
class SurvivalJourneyTest extends WithDemo {
  /** A site is pressed, and what it takes is there at once; pressed again, all is as before. */
  @Test
  void aLossIsTriedAndTakenBack() {
    browser.open("/survival");
    browser.sees("If we lost production alone");
    browser.click("Skerry Point");
    browser.sees("If we lost site Skerry Point");
    assertThat(browser.all(".store.lost")).hasSize(2);
    browser.click("region nordal");
    browser.sees("0 of 24 survive");
    browser.click("All back");
    browser.sees("If we lost production alone");
    assertThat(browser.all(".store.lost")).isEmpty();
  }

  /** What would help is tried at once, and a loss with a name is asked again. */
  @Test
  void aLossSaysWhatWouldHelpAndIsKept() {
    browser.open("/survival");
    browser.sees("If we lost production alone");
    browser.click("skerry-array");
    browser.sees("If we lost failure domain skerry-array");
    browser.sees("What would help");
    browser.sees("1 more survives, and none is lost");
    browser.click("Keep this loss");
    browser.type("Name", "The array burns");
    browser.click("Keep");
    browser.click("All back");
    browser.sees("If we lost production alone");
    browser.noLongerSees("What would help");
    browser.click("The array burns");
    browser.sees("If we lost failure domain skerry-array");
    browser.find("[aria-label='Forget The array burns']").click();
    browser.sees("None yet. Lose something, then keep it");
  }

  /** A safe that is lost with a key there takes nothing while the key lies elsewhere too; a feed that is not trusted takes all. */
  @Test
  void peopleAndFeedsCanBeLostToo() {
    browser.open("/survival");
    browser.sees("If we lost production alone");
    choose("People and safes that are lost", "safe of the notary");
    browser.sees("If we lost safe of the notary");
    browser.sees("none is lost");
    browser.click("All back");
    choose("Feeds that are not trusted", "skerry-journal");
    browser.sees("If we lost what the feed skerry-journal told of");
    browser.sees("0 of ");
  }

  private void choose(String label, String option) {
    browser.until(
        "opens " + label,
        d -> browser.all(".v-select").stream()
            .filter(e -> e.getText().contains(label))
            .findFirst()
            .map(e -> {
              e.click();
              return true;
            })
            .orElse(null));
    browser.click(option);
    browser.press(Keys.ESCAPE);
  }

  /** The deck manuals went over the water: what is away, what is back and not yet as it was, and what stays. */
  @Test
  void theWayBackIsFollowedByFactsAndEndsWhereSomebodySaysSo() {
    browser.open("/survival");
    browser.click("1 workload");
    browser.sees("Going back");
    browser.sees("Deck manuals");
    browser.sees("2 away; back in about ");
    assertThat(browser.find("table.plain").getText())
        .contains("deck-library", "deck-forms", "deck-drawings")
        .contains("New chain: no point that hangs from nothing was made since it is back");
    browser.find("[aria-label='It stays: deck-library']").click();
    browser.type("Why", "The library stays over the water");
    browser.click("It stays");
    browser.sees("1 away; ");
    browser.noLongerSees("deck-library");
  }
}
