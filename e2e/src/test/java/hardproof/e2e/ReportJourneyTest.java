package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/** What is handed out: read first, issued, taken away; and times in the zone of whoever looks. */
class ReportJourneyTest extends WithOffice {
  private void choose(String text) {
    browser.until("chooses " + text, d -> {
      for (WebElement e : browser.all(".v-overlay--active .v-list-item")) {
        if (e.isDisplayed() && e.getText().strip().equals(text)) {
          e.click();
          return true;
        }
      }
      return null;
    });
  }

  private Path downloaded(String name) {
    Path file = folder.resolve("downloads").resolve(name);
    return browser.until(name + " is downloaded", d -> Files.exists(file) ? file : null);
  }

  private List<Path> outbox() {
    Path witness = folder.resolve("data/outbox/witness");
    if (!Files.isDirectory(witness)) {
      return List.of();
    }
    try (Stream<Path> files = Files.list(witness)) {
      return files.filter(f -> !f.getFileName().toString().startsWith(".")).toList();
    } catch (IOException e) {
      return List.of();
    }
  }

  @Test
  void aReportIsReadFirstIssuedAndLaidWhereAWitnessTakesIt() throws Exception {
    firstAdministrator();
    facts();
    browser.open("/evidence?tab=reports");
    browser.sees("Nothing is issued by itself yet.");
    browser.until(
        "its page", d -> browser.all("a[href*='/api/report/page']").isEmpty() ? null : true);
    browser.click("Have a report issued");
    browser.type("Title", "For the notary");
    browser.find(".v-dialog .v-select").click();
    choose("Head of the ledger, for a witness");
    List<WebElement> selects = browser.all(".v-dialog fieldset .v-select");
    selects.get(selects.size() - 1).click();
    choose("into the folder");
    browser.type("Recipient 1", "../elsewhere");
    browser.click("Keep it");
    browser.sees("is no name of a folder in the outbox");
    browser.type("Recipient 1", "witness");
    assertThat(browser.barriers()).isEmpty();
    browser.click("Keep it");
    browser.sees("into the folder witness");
    browser.click("Issue now");
    browser.sees("into the folder witness: taken");
    assertThat(outbox())
        .singleElement()
        .satisfies(f -> assertThat(f.getFileName().toString()).matches("ledger-head-\\d+\\.json"));
    assertThat(browser.barriers()).isEmpty();
    String page = browser.find("a[href*='/api/report/page']").getDomAttribute("href");
    browser.open(page);
    browser.sees("Jobs of backup, copy and restore");
    browser.sees("all times are UTC");
  }

  @Test
  void aListIsTakenAwayAsItIsSeenAndTimesAreInTheZoneOfThePerson() throws Exception {
    firstAdministrator();
    facts();
    browser.open("/board");
    browser.sees("1 of 1");
    browser.click("CSV");
    assertThat(Files.readString(downloaded("workloads.csv")))
        .startsWith("key,")
        .contains("wages", "Wages office")
        .hasLineCount(2);
    browser.click("JSON");
    assertThat(Files.readString(downloaded("workloads.json"))).contains("\"Wages office\"");

    browser.find("button.person").click();
    browser.until("the menu", d -> {
      for (WebElement e : browser.all(".menu .v-list-item")) {
        if (e.getText().startsWith("Times in ")) {
          e.click();
          return true;
        }
      }
      return null;
    });
    browser.sees("Zone of times");
    WebElement zone = browser.find(".v-dialog input");
    zone.sendKeys(Keys.chord(Keys.CONTROL, "a"), "Mars/Olympus", Keys.TAB);
    browser.until(
        "it is refused",
        d -> browser.all(".v-dialog button[type=submit]:disabled").isEmpty() ? null : true);
    // Browsers list it by its older name; whoever types the newer one is understood.
    zone.sendKeys(Keys.chord(Keys.CONTROL, "a"), "Asia/Kolkata", Keys.TAB);
    browser.until(
        "it is taken",
        d -> browser.all(".v-dialog button[type=submit]:disabled").isEmpty() ? true : null);
    browser.click("Keep it");
    browser.open("/feeds");
    browser.sees("GMT+5:30");
    String utc = browser.find("td time").getDomAttribute("title");
    assertThat(utc).endsWith(" UTC");
    assertThat(browser.complaints()).isEmpty();
  }
}
