package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Makes docs/screenshots from a fresh demo estate; run by ./screenshots.sh, not with the tests. */
@Tag("screenshots")
class ScreenshotsTest {
  @TempDir
  Path folder;

  private Browser browser;
  private final Path pictures = Path.of(System.getProperty("screenshots"));

  private void shoot(String name) throws IOException {
    browser.until("it is loaded", d -> browser.all(".v-skeleton-loader").isEmpty());
    browser.until("fonts", d -> browser.script("return document.fonts.status === 'loaded'"));
    browser.shoot(pictures.resolve(name + ".png"));
    assertThat(pictures.resolve(name + ".png")).isNotEmptyFile();
  }

  @Test
  void everyMainView() throws IOException {
    Path bundle = folder.resolve("points.csv");
    Files.writeString(
        bundle,
        "key,resource,form,data_time,available,outcome\n"
            + "lost-1,lost-db,full,2026-11-24T01:00:00Z,2026-11-24T01:20:00Z,complete\n"
            + "lost-2,lost-db,full,yesterday,2026-11-24T01:20:00Z,complete\n"
            + "lost-3,lost-db,whole,2026-11-24T03:00:00Z,2026-11-24T01:20:00Z,complete\n");
    try (Application application = Application.start(folder.resolve("data"), true);
        Browser opened = new Browser(application.address(), folder)) {
      browser = opened;
      browser.open("/");
      browser.sees("Tarnwick Ferries");
      browser.click("Tobias Quill");
      browser.sees("workloads are proven");
      browser.find(".line.body");
      shoot("board");
      browser.click("Put the guide away");
      browser.open("/board?w=payroll");
      browser.sees("within RPO");
      shoot("case-file");
      browser.script("localStorage.setItem('hard-proof-theme', 'dark')");
      browser.open("/board?w=freight-manifests");
      browser.sees("within RPO");
      shoot("case-file-dark");
      browser.script("localStorage.removeItem('hard-proof-theme')");
      browser.open("/findings?group=criterion&finding=fresh-exposure-now:camera-south");
      browser.sees("What happened to it");
      shoot("findings");
      browser.open("/criteria");
      browser.sees("If this held now");
      browser.script("const i = document.querySelector('[aria-label=\"RPO, tier 1\"]');"
          + "i.value = '1h'; i.dispatchEvent(new Event('change'))");
      browser.sees("would turn");
      shoot("criteria");
      browser.open("/insights");
      browser.sees("How the limit of data loss was kept");
      shoot("insights");
      browser.open("/board?w=lost-property");
      browser.sees("within RPO");
      browser.click("Drill this");
      browser.sees("and if it passes show running");
      browser.type("Reason (stands in the evidence)", "Asked for by the lost-property desk");
      shoot("drill-form");
      browser.click("Start the drill");
      // The case file tells of an older drill in the same words.
      browser.sees("Just ended");
      browser.sees("Integrity check by the engine");
      shoot("drill-run");
      browser.open("/drills");
      browser.sees("Nobody has accepted this screen yet");
      shoot("drills-screen");
      browser.open("/integrity");
      browser.sees("artifacts with a known place");
      browser.find(".damage summary").click();
      browser.sees("Next older good point");
      shoot("integrity");
      browser.open("/survival");
      browser.click("Skerry Point");
      browser.sees("If we lost site Skerry Point");
      browser.sees("Back over time");
      shoot("survival");
      browser.open("/drills?tab=rehearsals");
      browser.sees("fuel-db set the time");
      shoot("rehearsal");
      browser.open("/drills?tab=ahead");
      browser.sees("no programme drills it");
      browser.sees("What became of the last starts");
      shoot("drills-ahead");
      browser.click("New programme");
      browser.type("Name", "Whatever is needed");
      browser.sees("Whatever is needed drills it in the next night");
      browser.click("Cancel");
      browser.open("/findings?part=plan");
      browser.sees("workload becomes proven");
      shoot("plan");
      browser.open("/feeds");
      browser.sees("4 feeds");
      browser.open("/feeds/stores");
      browser.sees("claimed copies are there as claimed");
      browser.script(
          "[...document.querySelectorAll('.stores tbody')].find(b => b.innerText.includes('NORDAL OBJECT'))"
              + ".querySelector('.acts button').click()");
      browser.sees("the store says until");
      shoot("stores");
      browser.open("/feeds");
      browser.type("Feed the files come from", "skerry-journal");
      browser.choose(java.util.List.of(bundle));
      browser.sees("Nothing is stored yet");
      shoot("feeds-preview");
      browser.click("Take none");
      browser.open("/evidence");
      browser.sees("workloads proven");
      browser.click("Make the pack");
      browser.click("Verify");
      browser.sees("agree with findings.csv");
      shoot("evidence");
      browser.open("/alerts");
      browser.sees("of them nobody has acknowledged");
      shoot("alerts");
      browser.open("/evidence");
      String report = browser.find("a[href$='/report']").getDomAttribute("href");
      browser.open(report);
      browser.sees("What is worst");
      shoot("report");
    }
  }
}
