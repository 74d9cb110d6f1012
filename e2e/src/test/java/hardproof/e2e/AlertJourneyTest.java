package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
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

  /** Rung, mailed and acknowledged. That it closes by itself is shown by the server's AlertsTest. */
  @Test
  void whatWentWrongIsToldOnTheBellAndByMailUntilSomebodyAcknowledgesIt() throws Exception {
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
    byte[] bad = Files.readAllBytes(artifact);
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
  }
}
