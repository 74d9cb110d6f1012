package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Every view of the demo held to the Web Content Accessibility Guidelines 2.2, in both modes. */
class AccessibilityTest extends WithDemo {
  /** axe-core with its own rules for WCAG 2.2 AA: nothing serious or critical on any view. */
  @Test
  void everyViewIsAccessibleInBothModes() throws IOException {
    for (String mode : List.of("light", "dark")) {
      browser.script("localStorage.setItem('hard-proof-theme', arguments[0])", mode);
      for (String view : List.of(
          "/board?w=payroll",
          "/findings?group=criterion&finding=cover-protected:harbour-sim-4",
          "/criteria",
          "/criteria?part=own",
          "/criteria?part=policies",
          "/criteria?part=exceptions",
          "/insights",
          "/drills",
          "/drills?tab=ahead",
          "/drills?tab=done",
          "/integrity",
          "/survival",
          "/survival/going-back",
          "/engines",
          "/feeds",
          "/feeds/stores",
          "/evidence",
          "/evidence?tab=controls",
          "/evidence?tab=ledger",
          "/evidence?tab=reports",
          "/alerts",
          "/alerts?tab=watches")) {
        browser.open(view);
        browser.sees("Tobias Quill");
        browser.until("it is loaded", d -> browser.all(".v-skeleton-loader").isEmpty());
        assertThat(browser.barriers()).as(view + ", " + mode).isEmpty();
      }
    }
    browser.script("localStorage.removeItem('hard-proof-theme')");
  }
}
