package hardproof.server.alerts;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.alerts.AlertKind;
import hardproof.core.findings.FindingCode;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class AlertTest {
  private static Alert alert(AlertKind kind, String subject, String workload) {
    return new Alert(
        1, kind, subject, subject, workload, null, "s", 0, Instant.EPOCH, null, null, null, null);
  }

  /** The key of a finding is its code, a colon and what it is about. */
  @Test
  void aFeedAndAnExceptionLeadToTheirFinding() {
    assertThat(alert(AlertKind.FEED_OVERDUE, "night & day", null).link())
        .isEqualTo("/findings?finding=" + FindingCode.FEED_OVERDUE.code() + "%3Anight+%26+day");
    assertThat(alert(AlertKind.EXCEPTION_ENDING, "EX-1", null).link())
        .isEqualTo("/findings?finding=exception-ending%3AEX-1");
  }

  @Test
  void aWorkloadLeadsToItsCaseFile() {
    assertThat(alert(AlertKind.DRILL_FAILED, "share", "w").link()).isEqualTo("/board?w=w");
  }

  @ParameterizedTest
  @EnumSource(AlertKind.class)
  void everyKindLeadsSomewhere(AlertKind kind) {
    assertThat(alert(kind, "report-7", "w").link()).startsWith("/");
  }
}
