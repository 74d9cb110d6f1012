package hardproof.server.reports;

import hardproof.core.reports.ReportKind;
import hardproof.core.reports.ReportTable;
import hardproof.core.reports.ReportTables;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a report of tables says.
 *
 * @param scope in words
 * @param from since when it tells; null where it tells of no time
 * @param until how far it looks ahead; null where it does not
 * @param standard that was in force
 * @param zone of the standard: the calendar that its days and months are of
 */
record ReportContents(
    String title,
    ReportKind kind,
    String scope,
    @Nullable Instant from,
    Instant asAt,
    @Nullable Instant until,
    String standard,
    String zone,
    List<ReportTable> tables,
    List<Picture> pictures) {
  /** What a machine showed that was started; {@code png} is the picture as its drill took it. */
  record Picture(String caption, byte[] png) {}

  String period() {
    return ReportTables.words(kind.period(), from, asAt, until);
  }
}
