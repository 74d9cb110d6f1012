package hardproof.server.estate;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Job;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Medium;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Policy.CopyTarget;
import hardproof.core.estate.Redundancy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Values;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Consistency;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.points.SourceRole;
import hardproof.core.retention.Retention;
import hardproof.core.schedule.HoursOfDay;
import hardproof.core.schedule.Schedule;
import hardproof.core.wording.WrongValue;
import hardproof.server.estate.FactTable.Column;
import hardproof.server.schedule.Schedules;
import java.util.List;
import java.util.function.Function;

/** The table of each file of the bundle. */
public final class FactTables {
  private FactTables() {}

  private static <T> Column<T> c(String name, Function<T, Object> value) {
    return new Column<>(name, value);
  }

  public static final FactTable<Store> STORES = new FactTable<>(
      "store",
      "key",
      List.of(
          c("key", Store::key),
          c("name", Store::name),
          c("site", Store::site),
          c("region", Store::region),
          c("medium", Store::medium),
          c("failure_domain", Store::failureDomain),
          c("online", Store::online),
          c("can_lock", Store::canLock),
          c("redundancy", Store::redundancy),
          c("throughput", Store::throughput),
          c("path", Store::path),
          c("delete_approvals", Store::deleteApprovals)),
      r -> new Store(
          r.text("key"),
          r.text("name"),
          r.text("site"),
          r.text("region"),
          r.code("medium", Medium.class),
          r.text("failure_domain"),
          r.yesNo("online"),
          r.yesNo("can_lock"),
          r.code("redundancy", Redundancy.class),
          r.number("throughput"),
          r.text("path"),
          r.integer("delete_approvals")));

  public static final FactTable<Policy> POLICIES = new FactTable<>(
      "policy",
      "key",
      List.of(
          c("key", Policy::key),
          c("name", Policy::name),
          c("scope", Policy::scope),
          c("schedule", p -> p.schedule() == null ? null : p.schedule().text()),
          c("zone", p -> p.schedule() == null ? null : p.schedule().zone()),
          c("start_window_ms", Policy::startWindow),
          c("complete_within_ms", Policy::completeWithin),
          c("keep_last", p -> p.retention().last()),
          c("keep_for_ms", p -> p.retention().keepFor()),
          c("keep_weekly", p -> p.retention().weekly()),
          c("keep_monthly", p -> p.retention().monthly()),
          c("keep_yearly", p -> p.retention().yearly()),
          c("consistency", Policy::consistency),
          c("encrypted", Policy::encrypted),
          c("read_back", Policy::readBack),
          c(
              "copy_to",
              p -> p.copyTo().stream().map(t -> t.store() + ":" + t.deadline()).toList()),
          c("copy_window", p -> p.copyWindow() == null ? null : p.copyWindow().text()),
          c("exclude", Policy::exclude)),
      r -> new Policy(
          r.text("key"),
          r.text("name"),
          SelectorJson.read(r.text("scope")),
          schedule(r.text("schedule"), r.text("zone")),
          r.duration("start_window_ms"),
          r.duration("complete_within_ms"),
          new Retention(
              r.integer("keep_last"),
              r.duration("keep_for_ms"),
              r.integer("keep_weekly"),
              r.integer("keep_monthly"),
              r.integer("keep_yearly")),
          r.code("consistency", Consistency.class),
          r.yesNo("encrypted"),
          r.yesNo("read_back"),
          r.text("copy_to") == null
              ? List.of()
              : Values.deadlines(r.text("copy_to")).stream()
                  .map(e -> new CopyTarget(e.getKey(), e.getValue()))
                  .toList(),
          r.text("copy_window") == null ? null : HoursOfDay.parse(r.text("copy_window")),
          r.list("exclude")));

  public static final FactTable<Workload> WORKLOADS = new FactTable<>(
      "workload",
      "key",
      List.of(
          c("key", Workload::key),
          c("name", Workload::name),
          c("owner", Workload::owner),
          c("tier", Workload::tier),
          c("needs", Workload::needs),
          c("rpo_ms", Workload::rpo),
          c("rto_ms", Workload::rto),
          c("rung", Workload::rung),
          c("data_class", Workload::dataClass),
          c("description", Workload::description)),
      r -> new Workload(
          r.text("key"),
          r.text("name"),
          r.text("owner"),
          r.integer("tier"),
          r.list("needs"),
          r.duration("rpo_ms"),
          r.duration("rto_ms"),
          r.code("rung", Rung.class),
          r.text("data_class"),
          r.text("description")));

  public static final FactTable<Resource> RESOURCES = new FactTable<>(
      "resource",
      "key",
      List.of(
          c("key", Resource::key),
          c("name", Resource::name),
          c("kind", Resource::kind),
          c("workload", Resource::workload),
          c("parent", Resource::parent),
          c("needs", Resource::needs),
          c("site", Resource::site),
          c("region", Resource::region),
          c("environment", Resource::environment),
          c("size_bytes", Resource::sizeBytes),
          c("daily_change_bytes", Resource::dailyChangeBytes),
          c("first_seen", Resource::firstSeen),
          c("last_seen", Resource::lastSeen),
          c("agent_seen", Resource::agentSeen),
          c("tags", Resource::tags),
          c("important_paths", Resource::importantPaths),
          c("missing_since", Resource::missingSince),
          c("credentials_changed", Resource::credentialsChanged),
          c("credentials_tested", Resource::credentialsTested)),
      r -> new Resource(
          r.text("key"),
          r.text("name"),
          r.code("kind", Kind.class),
          r.text("workload"),
          r.text("parent"),
          r.list("needs"),
          r.text("site"),
          r.text("region"),
          r.text("environment"),
          r.number("size_bytes"),
          r.number("daily_change_bytes"),
          r.instant("first_seen"),
          r.instant("last_seen"),
          r.instant("agent_seen"),
          r.tags("tags"),
          r.list("important_paths"),
          r.text("feed"),
          r.instant("missing_since"),
          r.instant("credentials_changed"),
          r.instant("credentials_tested")));

  public static final FactTable<RecoveryPoint> POINTS = new FactTable<>(
      "recovery_point",
      "key",
      List.of(
          c("key", RecoveryPoint::key),
          c("resource", RecoveryPoint::resource),
          c("policy", RecoveryPoint::policy),
          c("form", RecoveryPoint::form),
          c("based_on", RecoveryPoint::basedOn),
          c("data_time", RecoveryPoint::dataTime),
          c("started", RecoveryPoint::started),
          c("available", RecoveryPoint::available),
          c("outcome", RecoveryPoint::outcome),
          c("consistency", RecoveryPoint::consistency),
          c("pre_step", RecoveryPoint::preStep),
          c("source_role", RecoveryPoint::sourceRole),
          c("size_bytes", RecoveryPoint::sizeBytes),
          c("encrypted", RecoveryPoint::encrypted),
          c("skipped_items", RecoveryPoint::skippedItems)),
      r -> new RecoveryPoint(
          r.text("key"),
          r.text("resource"),
          r.text("policy"),
          r.code("form", Form.class),
          r.text("based_on"),
          r.instant("data_time"),
          r.instant("started"),
          r.instant("available"),
          r.code("outcome", PointOutcome.class),
          r.code("consistency", Consistency.class),
          r.yesNo("pre_step"),
          r.code("source_role", SourceRole.class),
          r.number("size_bytes"),
          r.yesNo("encrypted"),
          r.number("skipped_items"),
          r.text("feed")));

  public static final FactTable<Copy> COPIES = new FactTable<>(
      "copy",
      "point store",
      List.of(
          c("point", Copy::point),
          c("store", Copy::store),
          c("finished", Copy::finished),
          c("state", Copy::state),
          c("locked_until", Copy::lockedUntil),
          c("expires", Copy::expires),
          c("format", Copy::format),
          c("place", Copy::place),
          c("sha256", Copy::sha256),
          c("manifest", Copy::manifest),
          c("last_read", Copy::lastRead),
          c("last_read_passed", Copy::lastReadPassed)),
      r -> new Copy(
          r.text("point"),
          r.text("store"),
          r.instant("finished"),
          r.code("state", CopyState.class),
          r.instant("locked_until"),
          r.instant("expires"),
          r.text("format"),
          r.text("place"),
          r.text("sha256"),
          r.text("manifest"),
          r.instant("last_read"),
          r.yesNo("last_read_passed"),
          r.instant("recorded_at"),
          r.text("feed")));

  public static final FactTable<Job> JOBS = new FactTable<>(
      "job",
      "key",
      List.of(
          c("key", Job::key),
          c("type", Job::type),
          c("resource", Job::resource),
          c("policy", Job::policy),
          c("store", Job::store),
          c("started", Job::started),
          c("ended", Job::ended),
          c("outcome", Job::outcome),
          c("bytes", Job::bytes),
          c("message", Job::message)),
      r -> new Job(
          r.text("key"),
          r.code("type", Job.Type.class),
          r.text("resource"),
          r.text("policy"),
          r.text("store"),
          r.instant("started"),
          r.instant("ended"),
          r.code("outcome", Job.Result.class),
          r.number("bytes"),
          r.text("message")));

  public static final FactTable<AcceptedException> EXCEPTIONS = new FactTable<>(
      "exception",
      "key",
      List.of(
          c("key", AcceptedException::key),
          c("scope", AcceptedException::scope),
          c("criterion", AcceptedException::criterion),
          c("reason", AcceptedException::reason),
          c("proposed_by", AcceptedException::proposedBy),
          c("approved_by", e -> e.approvedBy() == null ? e.claimedApprover() : e.approvedBy()),
          c("from_time", AcceptedException::from),
          c("until_time", AcceptedException::until),
          c("refused_by", AcceptedException::refusedBy)),
      r -> new AcceptedException(
          r.text("key"),
          SelectorJson.read(r.text("scope")),
          r.text("criterion"),
          r.text("reason"),
          r.text("proposed_by"),
          r.text("feed").equals(OwnFacts.FEED) ? r.text("approved_by") : null,
          r.instant("from_time"),
          r.instant("until_time"),
          r.text("refused_by"),
          r.text("feed").equals(OwnFacts.FEED) ? null : r.text("approved_by")));

  /** One that an older version took and this one does not read is not known: nothing is promised by it. */
  private static Schedule schedule(String text, String zone) {
    try {
      return text == null ? null : Schedules.read(text, zone);
    } catch (WrongValue e) {
      return null;
    }
  }

  /** The table of a bundle file. */
  @SuppressWarnings("unchecked")
  public static FactTable<Object> of(BundleFile type) {
    FactTable<?> table = switch (type) {
      case STORES -> STORES;
      case POLICIES -> POLICIES;
      case WORKLOADS -> WORKLOADS;
      case RESOURCES -> RESOURCES;
      case POINTS -> POINTS;
      case COPIES -> COPIES;
      case JOBS -> JOBS;
      case EXCEPTIONS -> EXCEPTIONS;
    };
    return (FactTable<Object>) table;
  }
}
