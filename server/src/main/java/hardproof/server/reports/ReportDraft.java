package hardproof.server.reports;

import hardproof.core.estate.Selector;
import hardproof.core.feeds.Values;
import hardproof.core.reports.ReportKind;
import hardproof.core.wording.Title;
import hardproof.core.wording.Wording;
import hardproof.core.wording.WrongValue;
import hardproof.server.delivery.FolderOutlet;
import hardproof.server.delivery.MailDrop;
import hardproof.server.facts.SelectorJson;
import hardproof.server.outside.OutsideHosts;
import hardproof.server.schedule.RfcRecurrence;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.EnumSet;
import java.util.Iterator;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A report as somebody asks for it.
 *
 * @param selector as JSON; null for everything
 * @param period a duration such as 7d; null for since it was due the time before
 * @param formats of tables; empty for all
 * @param rule a recurrence rule by RFC 5545
 * @param zone that the rule is in; null for UTC
 */
record ReportDraft(
    String title,
    ReportKind kind,
    @Nullable String selector,
    @Nullable String period,
    @Nullable List<Report.Format> formats,
    String rule,
    @Nullable String zone,
    @Nullable List<Report.Delivery> deliveries,
    boolean active) {
  private static final Duration LONGEST = Duration.ofDays(3660);
  private static final Duration OFTEN = Duration.ofHours(1);
  private static final int MOST_DELIVERIES = 20;
  private static final int LOOKED_AT = 50;

  static ReportDraft of(Report r) {
    return new ReportDraft(
        r.title(),
        r.kind(),
        r.scope().equals(Selector.EVERYTHING) ? null : SelectorJson.write(r.scope()),
        r.period() == null ? null : Wording.typed(r.period()),
        List.copyOf(r.formats()),
        r.when().rule(),
        r.when().zone(),
        r.deliveries(),
        r.active());
  }

  /**
   * @param id 0 for a new one
   * @throws WrongValue where something of it can't be
   */
  Report report(long id, OutsideHosts hosts, Instant now) {
    if (title == null || kind == null || rule == null) {
      throw new WrongValue("a report has a title, a kind, and a rule that says when it is due");
    }
    Report.When when = new Report.When(
        rule.strip(), zone == null ? "UTC" : zone.strip(), now.truncatedTo(ChronoUnit.MINUTES));
    refuseTooOften(when);
    return new Report(
        id,
        Title.of(title),
        kind,
        SelectorJson.asked(selector),
        readPeriod(),
        formats == null || formats.isEmpty()
            ? EnumSet.allOf(Report.Format.class)
            : EnumSet.copyOf(formats),
        when,
        readDeliveries(hosts),
        active,
        now);
  }

  private @Nullable Duration readPeriod() {
    if (period == null || period.isBlank() || kind.period() == ReportKind.Period.NONE) {
      return null;
    }
    Duration read = duration(period.strip());
    if (read.isZero() || read.compareTo(LONGEST) > 0) {
      throw new WrongValue("a period is more than nothing and at most 3660d, not " + period);
    }
    return read;
  }

  /**
   * @throws WrongValue that names what is none
   */
  static Duration duration(String text) {
    try {
      return Values.duration(text);
    } catch (WrongValue e) {
      throw new WrongValue("'" + text + "' " + e.getMessage(), e);
    }
  }

  private static void refuseTooOften(Report.When when) {
    RfcRecurrence recurrence = when.recurrence();
    Iterator<Instant> starts = recurrence.startsAfter(when.starts());
    Instant before = null;
    for (int i = 0; i < LOOKED_AT && starts.hasNext(); i++) {
      Instant next = starts.next();
      if (before != null && Duration.between(before, next).compareTo(OFTEN) < 0) {
        throw new WrongValue(
            "'" + when.rule() + "' is due more often than once an hour; write it as"
                + " FREQ=DAILY;BYHOUR=7;BYMINUTE=0;BYSECOND=0");
      }
      before = next;
    }
    if (before == null) {
      throw new WrongValue("'" + when.rule() + "' is never due");
    }
  }

  private List<Report.Delivery> readDeliveries(OutsideHosts hosts) {
    List<Report.Delivery> asked = deliveries == null ? List.of() : deliveries;
    if (asked.size() > MOST_DELIVERIES) {
      throw new WrongValue("a report goes to at most " + MOST_DELIVERIES + ", not " + asked.size());
    }
    if (Set.copyOf(asked).size() < asked.size()) {
      throw new WrongValue("the same recipient stands there twice");
    }
    return asked.stream().map(d -> delivery(d, hosts)).toList();
  }

  private static Report.Delivery delivery(Report.Delivery asked, OutsideHosts hosts) {
    if (asked.how() == null || asked.recipient() == null) {
      throw new WrongValue("each recipient says how it is reached, and who it is");
    }
    String to = asked.recipient().strip();
    switch (asked.how()) {
      case FOLDER -> FolderOutlet.name(to);
      case MAIL -> MailDrop.address(to);
      case WEBHOOK -> hosts.requireAllowed(to);
    }
    return new Report.Delivery(asked.how(), to);
  }
}
