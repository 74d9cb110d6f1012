package hardproof.server.alerts;

import hardproof.core.alerts.AlertKind;
import hardproof.core.findings.FindingCode;
import hardproof.core.wording.Coded;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Something that somebody must know. It opens once and closes by itself.
 *
 * @param subject key of the workload, resource, feed or exception; {@code name} what people call it
 * @param counted others that come from the same cause
 * @param closedAt null while it is open
 * @param acknowledgedBy who knows and says so; null where nobody has
 */
public record Alert(
    long id,
    AlertKind kind,
    String subject,
    String name,
    @Nullable String workload,
    @Nullable Integer tier,
    String sentence,
    int counted,
    Instant openedAt,
    @Nullable Instant closedAt,
    @Nullable Instant acknowledgedAt,
    @Nullable String acknowledgedBy,
    @Nullable String note) {
  private static final String REPORTS = "/evidence?tab=reports";

  /** Where it stands. */
  public enum State implements Coded {
    OPEN,
    ACKNOWLEDGED,
    CLOSED
  }

  public State state() {
    return closedAt != null
        ? State.CLOSED
        : acknowledgedAt != null ? State.ACKNOWLEDGED : State.OPEN;
  }

  String key() {
    return kind.code() + ":" + subject;
  }

  /** The sentence, with how much else comes from the same. */
  public String whole() {
    return counted == 0
        ? sentence
        : sentence + "; " + counted + (counted == 1 ? " other comes" : " others come")
            + " from the same";
  }

  /** Where its case is, as an address within the page. */
  public String link() {
    return switch (kind) {
      case LEDGER_DIFFERS -> "/evidence?tab=ledger";
      case NOT_DELIVERED -> subject.startsWith("report-") ? REPORTS : "/alerts?tab=sent";
      case REPORT_NOT_MADE -> REPORTS;
      case FEED_OVERDUE -> finding(FindingCode.FEED_OVERDUE);
      case EXCEPTION_ENDING -> finding(FindingCode.EXCEPTION_ENDING);
      default -> "/board?w=" + encoded(workload);
    };
  }

  private String finding(FindingCode code) {
    return "/findings?finding=" + encoded(code.code() + ":" + subject);
  }

  private static String encoded(@Nullable String key) {
    return java.net.URLEncoder.encode(
        key == null ? "" : key, java.nio.charset.StandardCharsets.UTF_8);
  }
}
