package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.FileSystem;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.Keys;

/**
 * The whole path in the browser, on an installation that begins empty: first administrator, import
 * with a rejected row, Board, drill, pack.
 */
class JourneyTest extends WithOffice {
  /** A link that works once brings somebody in; ending them signs them out at once. */
  @Test
  void somebodyIsAddedByALinkAndEndedAgain() throws IOException {
    firstAdministrator();
    browser.open("/people");
    browser.sees("Nobody sets another’s password");
    assertThat(browser.barriers()).isEmpty();
    browser.click("Add somebody");
    browser.type("Sign-in name", "nils");
    browser.type("Full name", "Nils Rask");
    browser.click("Add and make the link");
    browser.sees("nils sets a password at this address, once, until");
    String link = browser.find(".link .mono").getText();
    String path = link.substring(link.indexOf("/set-password"));
    try (Browser other = new Browser(application.address(), folder.resolve("downloads"))) {
      other.open(path);
      other.sees("You sign in as nils");
      assertThat(other.barriers()).isEmpty();
      other.type("Password, at least 12 characters", "a longer password still");
      other.type("Password once more", "a longer password still");
      other.click("Set it and sign in");
      other.sees("Nothing is known yet.");
      try (Browser late = new Browser(application.address(), folder.resolve("downloads"))) {
        late.open(path);
        late.sees("This link was used, is too old");
      }
      browser.open("/people");
      browser.sees("Nils Rask");
      browser.script("""
          [...document.querySelectorAll('tr')].find(r => r.innerText.includes('Nils Rask'))
            .querySelector('.acts button:last-of-type').click()
          """);
      browser.sees("They are signed out at once and come in no more.");
      browser.click("End");
      browser.sees("ended ");
      other.open("/board");
      other.sees("Sign in");
      other.noLongerSees("Nothing is known yet.");
    }
  }

  @Test
  void fromAnEmptyInstallationToAPackThatAnOutsiderCanCheck() throws Exception {
    firstAdministrator();

    // Facts in: the preview shows the bad row, and nothing is stored by it.
    browser.click("Go to Feeds");
    browser.sees("No facts have been brought in yet.");
    browser.type("Feed the files come from", "office");
    browser.choose(bundle());
    browser.sees("Nothing is stored yet. This is what feed “office” would bring");
    browser.sees("is not a whole number from 1 to 4");
    browser.click("Take the 6 good rows");
    browser.sees("6 rows taken from 6 files.");

    // The Board says unproven; the case file says why, and offers the drill.
    browser.click("Board");
    browser.sees("0 of 1 workload is proven: 1 unproven.");
    browser.press("j");
    browser.press(Keys.ENTER);
    browser.sees("wages-share was never drilled; restored demanded.");
    browser.sees("drill wages-share by full restore from its newest usable point");
    browser.click("Drill this");
    browser.sees("Drill wages-share");
    browser.sees("and if it passes show restored");
    browser.type("Reason (stands in the evidence)", "first proof");
    browser.click("Start the drill");

    // It runs, and what came of it stays in sight.
    browser.sees("restored whole: 31 files");
    browser.sees("Restore wages.tar.gz");
    browser.sees("nothing is left");
    browser.click("Board");
    browser.sees("1 of 1 workload is proven.");

    // Evidence: made, verified on the screen, downloaded, verified by ordinary tools and by ours.
    browser.click("Evidence");
    browser.sees("1 of 1 workload proven");
    browser.type("Title", "Wages, for the assessor");
    browser.click("Make the pack");
    browser.sees("Wages, for the assessor");
    browser.click("Verify");
    browser.sees("1 verdict computed again from facts.json agree with workloads.csv");
    browser.click("Download");
    Path pack = browser.until("the pack is downloaded", d -> downloaded());
    run(folder, "unzip", "-q", pack.toString(), "-d", folder.resolve("out").toString());
    Path bag;
    try (Stream<Path> children = Files.list(folder.resolve("out"))) {
      bag = children.findFirst().orElseThrow();
    }
    assertThat(run(bag, "sha256sum", "--strict", "-c", "manifest-sha256.txt"))
        .contains("data/findings.csv: OK");
    assertThat(Files.readString(bag.resolve("data/workloads.csv")))
        .contains("wages,Wages office,Somebody,3,proven");
    String verified =
        run(folder, Application.command("verify", pack.toString()).toArray(String[]::new));
    assertThat(verified).contains("The pack is whole, and its verdicts follow from its facts.");
    aForgedPackIsDropped(pack);
    theLedgerIsLookedAt(pack);
    assertThat(browser.complaints())
        .filteredOn(c -> !c.contains("/api/session"))
        .isEmpty();
  }

  /** One verdict made better in an otherwise good pack, dropped on the page. */
  private void aForgedPackIsDropped(Path pack) throws IOException {
    browser.choose(List.of(pack));
    browser.sees("is whole, and its verdicts follow from its facts.");
    Path forged = Files.copy(pack, folder.resolve("forged.zip"));
    try (FileSystem zip = FileSystems.newFileSystem(forged);
        Stream<Path> all = Files.walk(zip.getPath("/"))) {
      Path table = all.filter(p -> p.endsWith("workloads.csv")).findFirst().orElseThrow();
      Files.writeString(table, Files.readString(table).replace("Somebody", "Nobody"));
    }
    browser.choose(List.of(forged));
    browser.sees("forged.zip must not be relied on.");
    browser.sees("workloads.csv does not follow from facts.json");
  }

  /** What was done is in it; its head is taken away and held against the pack. */
  private void theLedgerIsLookedAt(Path pack) throws Exception {
    browser.click("Ledger");
    browser.click("Check now");
    browser.sees("every head that was ever signed, and every fact against its entry");
    browser.find("[aria-label=Ledger] > details:last-of-type > summary").click();
    browser.sees("Wages, for the assessor");
    browser.click("Download the head");
    Path head = browser.until("the head is downloaded", d -> downloaded(".json"));
    // The head is newer than the pack, which says so and can prove nothing of it.
    browser.click("Packs");
    browser.choose(List.of(pack, head));
    browser.sees("is newer than the pack's");
  }

  private Path downloaded() {
    return downloaded(".zip");
  }

  private Path downloaded(String end) {
    try (Stream<Path> files = Files.list(folder.resolve("downloads"))) {
      return files.filter(f -> f.toString().endsWith(end)).findFirst().orElse(null);
    } catch (IOException e) {
      return null;
    }
  }
}
