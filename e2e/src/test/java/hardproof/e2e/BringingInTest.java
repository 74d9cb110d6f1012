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
import java.util.Locale;
import org.junit.jupiter.api.Test;

/** Somebody else's report by a recipe, the inbox, and what is expected of a feed. */
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
            + "i.value = arguments[1]; i.dispatchEvent(new Event('change'))",
        label,
        value);
  }

  /** Dropped as it is: what it gives is shown, kept with one click and taken with another; nothing is typed. */
  @Test
  void anOrdinaryReportNeedsNoTyping() throws IOException {
    String began = DateTimeFormatter.ofPattern("MM/dd/yyyy hh:mm a", Locale.ENGLISH)
        .format(Instant.now().minusSeconds(9000).atOffset(ZoneOffset.UTC));
    String ended = DateTimeFormatter.ofPattern("MM/dd/yyyy hh:mm a", Locale.ENGLISH)
        .format(Instant.now().minusSeconds(7200).atOffset(ZoneOffset.UTC));
    Path report = write(
        "jobs.csv",
        "Nightly report\n\nJob ID,Client,Level,Start time,End time,Status,Size (GB),Target\n"
            + "n-1,pier-scales,Full," + began + "," + ended + ",Success,12,LTO library\n"
            + "n-2,pier-lights,Full," + began + "," + ended + ",Failed,0,LTO library\n");
    browser.open("/feeds");
    browser.sees("choose files");
    browser.choose(List.of(report));
    browser.sees("How jobs.csv is read");
    browser.sees("Each resource is taken for a physical server.");
    browser.until(
        "what it gives stands beside", d -> browser.all(".card .sample").size() > 20);
    assertThat(browser.text()).contains("Names in line 3");
    browser.click("Keep the recipe");
    browser.sees("This is what feed “jobs” would bring");
    browser.click("Take 8 rows");
    browser.sees("8 rows taken from 5 files.");
    browser.open("/findings?find=pier-scales");
    browser.sees("pier-scales");
  }

  @Test
  void aReportInWordsThatNobodyKnowsIsDescribedOnceAndThenTaken() throws IOException {
    String ended = DateTimeFormatter.ofPattern("dd.MM.yyyy HH:mm")
        .format(Instant.now().minusSeconds(7200).atOffset(ZoneOffset.UTC));
    Path report = write(
        "nightly.csv",
        "Sicherung;Objekt;Ende;Ergebnis;GB\n" + "hs4-1;harbour-sim-4;" + ended + ";OK;12\n"
            + "hs4-2;harbour-sim-4;" + ended + ";KAPUTT;12\n");
    browser.open("/feeds");
    browser.click("write a recipe");
    browser.sees("How a report is read");
    browser.type("Name (that of the feed: the inbox uses it)", "nightly list");
    chooseIn(".v-dialog input[aria-label='A report to look at']", report);
    browser.until(
        "the columns are offered", d -> browser.all("#report-columns option").size() == 5);
    browser.sees("say yourself what it gives");
    set("Give something else as well", "points");
    browser.sees("leave out");
    set("points.key comes from", "sicherung");
    set("points.resource comes from", "= objekt");
    for (String field : List.of("data_time", "available", "size")) {
      set("Another field of points", field);
    }
    set("points.data_time comes from", "ende");
    set("points.available comes from", "ende");
    set("points.outcome comes from", "ergebnis");
    set("points.size comes from", "gb");
    set("points.form where that is empty", "full");
    set("Meanings in points.outcome", "OK=complete");
    set("Unit of points.size", "GB");
    browser.script("document.querySelector('.v-dialog details').open = true");
    set("Times are written", "dd.MM.yyyy HH:mm");
    set("Times in the zone", "UTC");
    browser.sees("1 of the first 2 rows");
    browser.click("Keep the recipe");
    browser.sees("change this recipe");

    browser.type("Feed the files come from", "nightly list");
    browser.choose(List.of(report));
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
