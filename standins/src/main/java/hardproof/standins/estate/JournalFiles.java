package hardproof.standins.estate;

import hardproof.standins.estate.DemoEstate.Delivery;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** The files of the feeds that tell of points, copies and jobs. */
final class JournalFiles {
  private static final String POINTS_HEADER =
      "key,resource,policy,form,based_on,data_time,started,available,outcome,consistency,pre_step,source_role,"
          + "size,encrypted,skipped_items\r\n";
  private static final String COPIES_HEADER =
      "point,store,finished,state,locked_until,expires,format,place,sha256,manifest\r\n";

  private final List<Row> points = new ArrayList<>();
  private final List<Row> copies = new ArrayList<>();

  private record Row(String feed, Instant known, String csv) {}

  void addPoint(String feed, Instant available, String csv) {
    points.add(new Row(feed, available, csv));
  }

  void addCopy(String feed, Instant finished, String csv) {
    copies.add(new Row(feed, finished, csv));
  }

  /** One delivery a day and feed, with what became known since the one before. */
  List<Delivery> deliveries(Instant now, JobJournal jobs) {
    List<Delivery> deliveries = new ArrayList<>();
    Instant before = Instant.MIN;
    for (int day = EstateMaker.DAYS; day >= 0; day--) {
      Instant received =
          day == 0 ? now : now.minus(Duration.ofDays(day)).minus(Duration.ofMinutes(4));
      add(EstateMaker.JOURNAL, before, received, jobs, deliveries);
      if (day >= 2) {
        add(EstateMaker.SILENT, before, received, jobs, deliveries);
      }
      before = received;
    }
    return deliveries;
  }

  /** What became known to a feed in a time; empty where nothing did. */
  List<Delivery> between(String feed, Instant after, Instant until, JobJournal jobs) {
    List<Delivery> deliveries = new ArrayList<>();
    add(feed, after, until, jobs, deliveries);
    deliveries.removeIf(d -> d.content().lines().count() < 2);
    return deliveries;
  }

  private void add(
      String feed, Instant before, Instant received, JobJournal jobs, List<Delivery> deliveries) {
    deliveries.add(new Delivery(
        received, feed, "points.csv", POINTS_HEADER + rows(points, feed, before, received)));
    deliveries.add(new Delivery(
        received, feed, "copies.csv", COPIES_HEADER + rows(copies, feed, before, received)));
    String jobRows = jobs.between(feed, before, received);
    if (jobRows != null) {
      deliveries.add(new Delivery(received, feed, "jobs.csv", jobRows));
    }
  }

  private static String rows(List<Row> all, String feed, Instant before, Instant received) {
    StringBuilder csv = new StringBuilder();
    for (Row row : all) {
      if (row.feed().equals(feed)
          && row.known().isAfter(before)
          && !row.known().isAfter(received)) {
        csv.append(row.csv());
      }
    }
    return csv.toString();
  }
}
