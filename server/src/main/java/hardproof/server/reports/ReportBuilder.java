package hardproof.server.reports;

import hardproof.core.estate.Selector;
import hardproof.core.forecast.Forecast;
import hardproof.core.reports.JobsTable;
import hardproof.core.reports.ReportKind;
import hardproof.core.reports.ReportTable;
import hardproof.core.reports.ReportTables;
import hardproof.core.wording.WrongValue;
import hardproof.server.programmes.Renewing;
import hardproof.server.proof.Evaluated;
import hardproof.server.web.Refused;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Works out what a report says. */
public final class ReportBuilder {
  /** What looks ahead, looks so far where nothing else is said. */
  static final Duration AHEAD = Duration.ofDays(14);

  private static final Duration A_DAY = Duration.ofDays(1);
  private static final Duration FARTHEST = Duration.ofDays(3660);

  private final Renewing renewing;
  private final Digest digest;

  public ReportBuilder(Renewing renewing, Digest digest) {
    this.renewing = renewing;
    this.digest = digest;
  }

  /**
   * What is asked for.
   *
   * @param from null for a day back; not asked where it tells of no time
   * @param ahead null for two weeks
   */
  record Asked(
      String title,
      ReportKind kind,
      Selector scope,
      @Nullable Instant from,
      @Nullable Duration ahead) {}

  /**
   * @throws Refused where the scope is empty
   * @throws WrongValue where the period can't be
   */
  ReportContents contents(Evaluated evaluated, Asked asked) {
    Instant asAt = evaluated.evaluation().asAt();
    Set<String> resources = evaluated.estate().matching(asked.scope());
    if (resources.isEmpty()) {
      throw new Refused(
          "Nothing matches this scope: a report about nothing would say nothing. Widen it.");
    }
    boolean back = asked.kind().period() == ReportKind.Period.BACK;
    Instant from = back ? from(asked.from(), asAt) : null;
    Instant until =
        asked.kind().period() == ReportKind.Period.AHEAD ? until(asked.ahead(), asAt) : null;
    boolean everything = asked.scope().equals(Selector.EVERYTHING);
    List<ReportTable> tables = switch (asked.kind()) {
      case JOBS -> List.of(JobsTable.of(evaluated.estate(), resources, everything, from, asAt));
      case UNPROTECTED -> List.of(ReportTables.unprotected(evaluated.evaluation(), resources));
      case LAPSING -> List.of(lapsing(evaluated, resources, until));
      case EXCEPTIONS -> List.of(ReportTables.exceptions(evaluated.estate(), resources));
      case DIGEST -> digest.tables(evaluated, asked.scope(), resources, from, asAt);
      case PACK, HEAD ->
        throw new WrongValue(
            asked.kind().words() + " is no table; a pack is read under Packs, a head under Ledger");
    };
    return new ReportContents(
        asked.title(),
        asked.kind(),
        asked.scope().words(),
        from,
        asAt,
        until,
        evaluated.evaluation().standard().title(),
        name(evaluated.evaluation().standard().zone()),
        asked.kind() == ReportKind.DIGEST
            ? with(tables, lapsing(evaluated, resources, asAt.plus(Duration.ofDays(7))))
            : tables,
        asked.kind() == ReportKind.DIGEST
            ? digest.pictures(evaluated.estate(), resources, from, asAt)
            : List.of());
  }

  private static String name(ZoneId zone) {
    return zone.getId().equals("Z") ? "UTC" : zone.getId();
  }

  private static List<ReportTable> with(List<ReportTable> tables, ReportTable last) {
    return Stream.concat(tables.stream(), Stream.of(last)).toList();
  }

  private ReportTable lapsing(Evaluated evaluated, Set<String> resources, Instant until) {
    Set<String> notRenewed =
        renewing.in(evaluated).stream().map(Forecast.Gap::resource).collect(Collectors.toSet());
    return ReportTables.lapsing(evaluated.evaluation(), resources, until, notRenewed);
  }

  private static Instant from(@Nullable Instant from, Instant asAt) {
    if (from == null) {
      return asAt.minus(A_DAY);
    }
    if (!from.isBefore(asAt) || from.isBefore(Instant.EPOCH)) {
      throw new WrongValue(
          "a period begins before the instant it is as at, and not before 1970: from " + from
              + " can't be, as at " + asAt);
    }
    return from;
  }

  private static Instant until(@Nullable Duration ahead, Instant asAt) {
    if (ahead == null) {
      return asAt.plus(AHEAD);
    }
    if (ahead.isZero() || ahead.isNegative() || ahead.compareTo(FARTHEST) > 0) {
      throw new WrongValue("ahead is more than nothing and at most 3660d");
    }
    return asAt.plus(ahead);
  }
}
