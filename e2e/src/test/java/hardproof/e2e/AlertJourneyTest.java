package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.Keys;

/** What went wrong is told by the bell and by mail, in the browser. */
class AlertJourneyTest extends WithOffice {
  /** From the command field, by keyboard alone. */
  private void drill(String reason) throws IOException {
    browser.open("/board");
    browser.sees("workload is proven");
    browser.press(Keys.chord(Keys.CONTROL, "k"));
    browser.type("Anything by its name, a page, “drill …”, or “as at 1 October”", "drill wages");
    browser.sees("Drill wages-share");
    assertThat(browser.barriers()).isEmpty();
    browser.press(Keys.ENTER);
    browser.sees("and if it passes show restored");
    browser.type("Reason (stands in the evidence)", reason);
    browser.click("Start the drill");
  }

  private List<String> mails() {
    Path drop = folder.resolve("data/mail");
    if (!Files.isDirectory(drop)) {
      return List.of();
    }
    try (Stream<Path> files = Files.list(drop)) {
      List<String> mails = new ArrayList<>();
      for (Path file : files.filter(f -> f.toString().endsWith(".eml")).toList()) {
        mails.add(Files.readString(file));
      }
      return mails;
    } catch (IOException e) {
      return List.of();
    }
  }

  /** The office makes another backup, and says so. */
  private void anotherBackup(byte[] artifact) throws Exception {
    Path store = folder.resolve("store");
    Files.write(store.resolve("wages-2.tar.gz"), artifact);
    Files.copy(store.resolve("wages.tar.gz.sha256"), store.resolve("wages-2.tar.gz.sha256"));
    String sum = run(store, "sha256sum", "wages-2.tar.gz").substring(0, 64);
    String manifest = run(store, "sha256sum", "wages-2.tar.gz.sha256").substring(0, 64);
    Instant data = Instant.now().minus(Duration.ofHours(1)).truncatedTo(ChronoUnit.SECONDS);
    Path in = Files.createDirectories(folder.resolve("second"));
    Path points = Files.writeString(
        in.resolve("points.csv"),
        "key,resource,form,data_time,available,outcome,size\nwages-2,wages-share,full," + data + ","
            + data.plusSeconds(600) + ",complete," + artifact.length + "\n");
    Path copies = Files.writeString(
        in.resolve("copies.csv"),
        "point,store,finished,state,format,place,sha256,manifest\nwages-2,near,"
            + data.plusSeconds(600) + ",present,tar.gz,wages-2.tar.gz," + sum + "," + manifest
            + "\n");
    browser.open("/feeds");
    browser.type("Feed the files come from", "office");
    browser.choose(List.of(points, copies));
    browser.click("Take 2 rows");
    browser.sees("2 rows taken from 2 files.");
  }

  /** Rung, mailed, acknowledged, and closed by itself when the next backup is shown to be good. */
  @Test
  void whatWentWrongIsToldOnTheBellAndByMailUntilItsCauseIsGone() throws Exception {
    firstAdministrator();
    facts();
    browser.open("/alerts?tab=watches");
    browser.sees("Everything, on the bell of everybody");
    browser.click("Add a watch");
    browser.type("Name", "The office");
    browser.type("Whom", "office@example.org");
    assertThat(browser.barriers()).isEmpty();
    browser.click("Keep it");
    browser.sees("by mail to office@example.org");

    Path artifact = folder.resolve("store/wages.tar.gz");
    byte[] good = Files.readAllBytes(artifact);
    byte[] bad = good.clone();
    bad[bad.length / 2] ^= 1;
    Files.write(artifact, bad);
    drill("quarterly test");
    browser.sees("the copy is damaged");
    browser.until("the bell rings", d -> browser.all(".bell.ringing").isEmpty() ? null : true);
    browser.find(".bell.ringing").click();
    browser.sees("A drill failed or took too long");
    browser.until(
        "it is mailed",
        d -> mails().stream()
                .anyMatch(m -> m.contains("Subject: A drill failed or took too long: wages-share")
                    && m.contains("To: office@example.org"))
            ? true
            : null);
    browser.click("Acknowledge");
    browser.type("What is being done about it", "a new copy comes from the vault");
    browser.press(Keys.ENTER);
    browser.sees("a new copy comes from the vault");
    browser.until("nothing rings", d -> browser.all(".bell.ringing").isEmpty() ? true : null);
    browser.open("/alerts?tab=sent");
    browser.sees("A drill failed or took too long: wages-share");

    anotherBackup(good);
    drill("is the next one good?");
    browser.sees("shown restored");
    browser.until(
        "that it is over is mailed",
        d -> mails().stream()
                .anyMatch(m -> m.contains("Subject: Over: A drill failed or took too long"))
            ? true
            : null);
    browser.open("/alerts?tab=closed");
    browser.sees("A drill failed or took too long");
  }
}
