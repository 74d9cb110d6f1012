package hardproof.standins.estate;

import hardproof.core.evidence.CsvCell;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** What the backup software of the estate says about its runs. */
final class JobJournal {
  /** Older runs are not told of. */
  static final int DAYS = 16;

  private final List<Row> rows = new ArrayList<>();

  private record Row(String feed, Instant ended, String csv) {}

  void backup(
      String feed,
      String point,
      String resource,
      String policy,
      Instant started,
      Instant ended,
      String outcome) {
    boolean partial = outcome.equals("partial");
    boolean failed = outcome.equals("failed");
    rows.add(new Row(
        feed,
        ended,
        CsvCell.row(
            "b-" + point,
            "backup",
            resource,
            policy,
            "skerry-disk",
            started,
            ended,
            failed ? "failed" : partial ? "warning" : "succeeded",
            null,
            failed
                ? "the source did not answer any more"
                : partial ? "212 files were in use and left out" : null)));
  }

  /** Three tries, each an hour after the other, and then it gives up. */
  void failedCopy(String feed, String point, String resource, String store, Instant available) {
    for (int attempt = 1; attempt <= 3; attempt++) {
      Instant started = available.plus(Duration.ofHours(attempt));
      Instant ended = started.plus(Duration.ofMinutes(4));
      rows.add(new Row(
          feed,
          ended,
          CsvCell.row(
              "c-" + point + "-" + attempt,
              "copy",
              resource,
              null,
              store,
              started,
              ended,
              "failed",
              0,
              "the account's quota is used up")));
    }
  }

  /** The rows that became known in (before, received]; null when there are none. */
  String between(String feed, Instant before, Instant received) {
    StringBuilder csv = new StringBuilder();
    for (Row row : rows) {
      boolean due = row.ended().isAfter(before) && !row.ended().isAfter(received);
      if (due && row.feed().equals(feed)) {
        csv.append(row.csv());
      }
    }
    return csv.length() == 0
        ? null
        : "key,type,resource,policy,store,started,ended,outcome,bytes,message\r\n" + csv;
  }
}
