package hardproof.server.reports;

import hardproof.core.estate.Selector;
import hardproof.core.reports.ReportKind;
import java.time.Instant;
import java.util.EnumSet;
import java.util.List;

/** Reports as an office would begin with. */
public final class ShippedReports {
  private ShippedReports() {}

  /**
   * @param from what was due before is not issued
   * @param digestTo the mail address that each morning's digest goes to
   */
  public static void add(ReportStore store, String digestTo, String by, Instant from) {
    store.put(
        report(
            "What happened since yesterday",
            ReportKind.DIGEST,
            "FREQ=DAILY;BYHOUR=7;BYMINUTE=0;BYSECOND=0",
            from,
            new Report.Delivery(Report.How.MAIL, digestTo)),
        by);
    store.put(
        report(
            "Head of the ledger, for the notary",
            ReportKind.HEAD,
            "FREQ=DAILY;BYHOUR=7;BYMINUTE=0;BYSECOND=0",
            from,
            new Report.Delivery(Report.How.FOLDER, "witness")),
        by);
    store.put(
        report(
            "Recoverability of the month",
            ReportKind.PACK,
            "FREQ=MONTHLY;BYMONTHDAY=1;BYHOUR=5;BYMINUTE=0;BYSECOND=0",
            from,
            new Report.Delivery(Report.How.FOLDER, "auditors")),
        by);
  }

  private static Report report(
      String title, ReportKind kind, String rule, Instant from, Report.Delivery to) {
    return new Report(
        0,
        title,
        kind,
        Selector.EVERYTHING,
        null,
        EnumSet.allOf(Report.Format.class),
        new Report.When(rule, "UTC", from),
        List.of(to),
        true,
        from);
  }
}
