package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Somebody else's export by a mapping, the inbox, and what is expected of a feed. */
class BringingInTest extends WithDemo {
  private Path write(String name, String content) throws IOException {
    return Files.writeString(folder.resolve(name), content);
  }

  private void chooseIn(String css, Path file) {
    browser.find(css).sendKeys(file.toString());
  }

  private void set(String label, String value) {
    browser.script(
        "const i = document.querySelector('[aria-label=\"' + arguments[0] + '\"]');"
            + "i.value = arguments[1]; i.dispatchEvent(new Event('input'))",
        label,
        value);
  }

  @Test
  void anExportWithOtherColumnsIsMappedOnceAndThenTaken() throws IOException {
    String ended = DateTimeFormatter.ofPattern("dd.MM.yyyy HH:mm")
        .format(Instant.now().minusSeconds(7200).atOffset(ZoneOffset.UTC));
    Path export = write(
        "nightly.csv",
        "Sicherung;Objekt;Ende;Ergebnis;GB\n" + "hs4-1;harbour-sim-4;" + ended + ";OK;12\n"
            + "hs4-2;harbour-sim-4;" + ended + ";KAPUTT;12\n");
    browser.open("/feeds");
    browser.click("they have other columns");
    browser.sees("What the columns of an export mean");
    browser.type("Name (that of the feed: the inbox uses it)", "nightly list");
    chooseIn(".v-dialog input[type=file]", export);
    browser.until(
        "the columns are offered", d -> browser.all("#export-columns option").size() == 5);
    set("Column for key", "Sicherung");
    set("Column for resource", "Objekt");
    set("Column for data_time", "Ende");
    set("Column for available", "Ende");
    set("Column for outcome", "Ergebnis");
    set("Column for size", "GB");
    set("Constant for form", "full");
    set("Meanings for outcome", "OK=complete");
    browser.script("const s = document.querySelector('[aria-label=\"Unit of size\"]');"
        + "s.value = 'GB'; s.dispatchEvent(new Event('change'))");
    browser.type("Times are written as", "dd.MM.yyyy HH:mm");
    browser.type("in the zone", "UTC");
    browser.click("Keep the mapping");
    browser.sees("change this mapping");

    browser.type("Feed the files come from", "nightly list");
    browser.choose(List.of(export));
    browser.sees("Rejected in");
    browser.sees("KAPUTT");
    browser.click("Take the 1 good row");
    browser.sees("1 row taken from 1 file.");
    browser.open("/findings?find=harbour-sim-4");
    browser.find(".finding-line.one").click();
    browser.sees("What happened to it");
  }

  @Test
  void whatIsLaidIntoTheInboxIsTakenByItself() throws IOException {
    Path file = write("workloads.csv", "key,name,owner,tier\nlaid-in,Laid into the inbox,Nils,4\n");
    Path inbox = Files.createDirectories(folder.resolve("data/inbox/office list"));
    Files.move(file, inbox.resolve("workloads.csv"), StandardCopyOption.ATOMIC_MOVE);
    browser.open("/feeds");
    browser.until("it came", d -> {
      if (browser.text().contains("office list")) {
        return true;
      }
      browser.open("/feeds");
      return null;
    });
    browser.sees("workloads.csv");
    assertThat(inbox.resolve("workloads.csv")).doesNotExist();
    browser.open("/board?find=inbox");
    browser.sees("Laid into the inbox");
  }

  @Test
  void aFeedIsExpectedAndListsInFull() {
    browser.open("/feeds");
    browser.sees("Expected every");
    String row =
        "[...document.querySelectorAll('tr')].find(r => r.innerText.startsWith('tarnwick-inventory'))";
    browser.until("the feed", d -> browser.script("return !!" + row));
    browser.script(row + ".querySelector('button').click()");
    browser.type("such as 24h, empty for never", "90m");
    browser.click("Keep");
    browser.sees("1 h 30 m");
    Object before = browser.script("return " + row + ".querySelector('input').checked");
    browser.script(row + ".querySelector('input').click()");
    browser.open("/feeds");
    browser.until(
        "it is kept",
        d -> browser.script("return !!" + row).equals(true)
            && !before.equals(browser.script("return " + row + ".querySelector('input').checked")));
    browser.sees("1 h 30 m");
    browser.script(row + ".querySelector('button').click()");
    browser.until(
        "as it is typed",
        d -> "90m".equals(browser.script("return " + row + ".querySelector('input').value")));
    browser.type("such as 24h, empty for never", "often");
    browser.click("Keep");
    browser.sees("'often' is not a duration; write it as PT4H, P14D, 4h or 14d");
  }
}
