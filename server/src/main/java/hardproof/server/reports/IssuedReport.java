package hardproof.server.reports;

import com.fasterxml.jackson.annotation.JsonIgnore;
import hardproof.core.reports.ReportKind;
import hardproof.core.wording.Coded;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A report that was issued, or that could not be.
 *
 * @param report that asked for it; null where somebody did by hand
 * @param from since when it tells; null where it tells of no time
 * @param until how far it looks ahead; null where it does not
 * @param dueAt when its schedule asked for it; null where somebody did by hand
 * @param words as the text of a mail
 * @param pack the number of the evidence pack that it is; null where it is none
 * @param problem why it could not be made; null where it was
 */
record IssuedReport(
    long id,
    @Nullable Long report,
    String title,
    ReportKind kind,
    String scope,
    @Nullable Instant from,
    Instant asAt,
    @Nullable Instant until,
    @Nullable Instant dueAt,
    Instant madeAt,
    String madeBy,
    @JsonIgnore String words,
    @Nullable Long pack,
    @Nullable String problem,
    List<IssuedFile> files,
    List<Sent> deliveries) {
  /** A file of it; {@code bytes} is its size. */
  record IssuedFile(String name, String mediaType, long bytes, String sha256) {}

  /** What became of a delivery. */
  enum State implements Coded {
    WAITING,
    SENT,
    FAILED
  }

  /**
   * A delivery.
   *
   * @param nextAt when it is tried next; null when it is not any more
   * @param problem why the last try failed; null where none did
   */
  record Sent(
      long id,
      Report.How how,
      String recipient,
      State state,
      int tries,
      @Nullable Instant nextAt,
      @Nullable Instant endedAt,
      @Nullable String problem) {}

  IssuedReport with(List<IssuedFile> its, List<Sent> sent) {
    return new IssuedReport(
        id, report, title, kind, scope, from, asAt, until, dueAt, madeAt, madeBy, words, pack,
        problem, its, sent);
  }
}
