package hardproof.core.feeds;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Job;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Medium;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Redundancy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Selector;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
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
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;
import java.util.function.Function;

/**
 * Turns a row of a bundle file into a fact, or into the reasons why it can't be one.
 *
 * @param selectors reads a selector from its JSON; throws WrongValue with a reason
 * @param schedules reads a schedule from its text and zone (null where none is given); throws
 *     WrongValue with a reason
 * @param formats reads the format of an artifact; throws WrongValue with a reason
 * @param now nothing that has happened can have happened later
 */
public record FactReader(
    String feed,
    Instant now,
    Function<String, Selector> selectors,
    BiFunction<String, String, Schedule> schedules,
    Function<String, String> formats) {
  /** For facts that were taken before: whatever their format is called. */
  public FactReader(
      String feed,
      Instant now,
      Function<String, Selector> selectors,
      BiFunction<String, String, Schedule> schedules) {
    this(feed, now, selectors, schedules, format -> format);
  }

  /**
   * A row's fact, or its rejections.
   *
   * @param fact null when it was rejected
   */
  public record Read<T>(T fact, List<Rejection> rejections) {}

  /** Reads a row of any file; the fact's type is the file's. */
  public Read<?> read(BundleFile type, String file, RawRow row) {
    return switch (type) {
      case STORES -> store(file, row);
      case POLICIES -> policy(file, row);
      case WORKLOADS -> workload(file, row);
      case RESOURCES -> resource(file, row);
      case POINTS -> point(file, row);
      case COPIES -> copy(file, row, now);
      case JOBS -> job(file, row);
      case EXCEPTIONS -> exception(file, row);
    };
  }

  private static <T> Read<T> done(RowReader r, java.util.function.Supplier<T> fact) {
    return r.ok()
        ? new Read<>(fact.get(), List.of())
        : new Read<>(null, List.copyOf(r.rejections()));
  }

  public Read<Store> store(String file, RawRow row) {
    RowReader r = new RowReader(file, BundleFile.STORES, row, now);
    Medium medium = r.code("medium", Medium.class, null);
    Boolean online = r.yesNo("online");
    Boolean canLock = r.yesNo("can_lock");
    Long throughput = r.size("throughput");
    Redundancy redundancy = r.code("redundancy", Redundancy.class, null);
    Integer approvals = r.wholeNumber("delete_approvals", 0, 100);
    if (throughput != null && throughput == 0) {
      r.reject("throughput", "is zero: nothing could ever be restored from it");
    }
    return done(
        r,
        () -> new Store(
            r.text("key"),
            r.text("name"),
            r.text("site"),
            r.text("region"),
            medium,
            r.text("failure_domain"),
            online,
            canLock,
            redundancy,
            throughput,
            r.text("path"),
            approvals));
  }

  public Read<Policy> policy(String file, RawRow row) {
    RowReader r = new RowReader(file, BundleFile.POLICIES, row, now);
    Selector scope = r.with("scope", selectors);
    String zone = r.with("zone", FactReader::zone);
    Schedule schedule = r.with("schedule", t -> schedule(t, zone));
    Duration startWindow = r.duration("start_window");
    Duration completeWithin = r.duration("complete_within");
    if (completeWithin != null && completeWithin.isZero()) {
      r.reject("complete_within", "is nothing: no job could ever be done in it");
    }
    Retention retention = new Retention(
        r.wholeNumber("keep_last", 0, 1_000_000),
        r.duration("keep_for"),
        r.wholeNumber("keep_weekly", 0, 5_000),
        r.wholeNumber("keep_monthly", 0, 1_200),
        r.wholeNumber("keep_yearly", 0, 100));
    Consistency consistency = r.code("consistency", Consistency.class, null);
    Boolean encrypted = r.yesNo("encrypted");
    Boolean readBack = r.yesNo("read_back");
    var copyTo = r.with("copy_to", Values::deadlines);
    HoursOfDay copyWindow = r.with("copy_window", HoursOfDay::parse);
    List<String> exclude = r.list("exclude");
    return done(
        r,
        () -> new Policy(
            r.text("key"),
            r.text("name"),
            scope == null ? Selector.EVERYTHING : scope,
            schedule,
            startWindow,
            completeWithin,
            retention,
            consistency,
            encrypted,
            readBack,
            copyTo == null
                ? List.of()
                : copyTo.stream()
                    .map(e -> new Policy.CopyTarget(e.getKey(), e.getValue()))
                    .toList(),
            copyWindow,
            exclude));
  }

  /** An interval such as 24h, or anything that {@link #schedules} reads. */
  private Schedule schedule(String text, String zone) {
    if (text.matches("(?i)\\d+\\s*[smhdw]|P.*")) {
      return Schedule.every(Values.duration(text));
    }
    return schedules.apply(text, zone);
  }

  private static String zone(String text) {
    try {
      return ZoneId.of(text).getId();
    } catch (DateTimeException e) {
      throw new WrongValue("is no time zone; write it as Europe/Oslo or UTC", e);
    }
  }

  public Read<Workload> workload(String file, RawRow row) {
    RowReader r = new RowReader(file, BundleFile.WORKLOADS, row, now);
    Integer tier = r.wholeNumber("tier", 1, 4);
    var rpo = r.duration("rpo");
    var rto = r.duration("rto");
    Rung rung = r.with(
        "rung",
        t -> t.matches("\\d")
            ? Rung.numbered(Integer.parseInt(t))
            : hardproof.core.wording.Coded.of(Rung.class, t));
    List<String> needs = r.list("needs");
    if (r.text("key") != null && needs.contains(r.text("key"))) {
      r.reject("needs", "names the workload itself");
    }
    return done(
        r,
        () -> new Workload(
            r.text("key"),
            r.text("name"),
            r.text("owner"),
            tier,
            needs,
            rpo,
            rto,
            rung,
            r.text("data_class"),
            r.text("description")));
  }

  public Read<Resource> resource(String file, RawRow row) {
    RowReader r = new RowReader(file, BundleFile.RESOURCES, row, now);
    Kind kind = r.code("kind", Kind.class, null);
    Long size = r.size("size");
    Long change = r.size("daily_change");
    Instant first = r.past("first_seen");
    Instant last = r.past("last_seen");
    Instant agent = r.past("agent_seen");
    Instant changed = r.past("credentials_changed");
    Instant tested = r.past("credentials_tested");
    if (first != null && last != null && last.isBefore(first)) {
      r.reject("last_seen", "is before first_seen " + first);
    }
    if (r.text("parent") != null && r.text("parent").equals(r.text("key"))) {
      r.reject("parent", "names the resource itself");
    }
    Map<String, String> tags = r.tags("tags");
    return done(
        r,
        () -> new Resource(
            r.text("key"),
            r.text("name"),
            kind,
            r.text("workload"),
            r.text("parent"),
            r.list("needs"),
            r.text("site"),
            r.text("region"),
            r.text("environment"),
            size,
            change,
            first,
            last,
            agent,
            tags,
            r.list("important_paths"),
            feed,
            null,
            changed,
            tested));
  }

  public Read<RecoveryPoint> point(String file, RawRow row) {
    RowReader r = new RowReader(file, BundleFile.POINTS, row, now);
    Form form = r.code("form", Form.class, null);
    PointOutcome outcome = r.code("outcome", PointOutcome.class, null);
    Consistency consistency = r.code("consistency", Consistency.class, Consistency.UNKNOWN);
    Instant started = r.past("started");
    Instant given = r.past("data_time");
    Instant data = given == null ? started : given;
    Instant available = r.past("available");
    if (data == null && r.text("data_time") == null && r.text("started") == null) {
      r.reject("data_time", "is empty, and so is started: age can't be counted");
    }
    if (data != null && available != null && available.isBefore(data)) {
      r.reject("available", "is before the data time " + data);
    }
    if (started != null && available != null && available.isBefore(started)) {
      r.reject("available", "is before it was started " + started);
    }
    if (r.text("based_on") != null && r.text("based_on").equals(r.text("key"))) {
      r.reject("based_on", "names the point itself");
    }
    Long size = r.size("size");
    Boolean encrypted = r.yesNo("encrypted");
    Boolean preStep = r.yesNo("pre_step");
    SourceRole role = r.code("source_role", SourceRole.class, null);
    Long skipped = r.count("skipped_items");
    return done(
        r,
        () -> new RecoveryPoint(
            r.text("key"),
            r.text("resource"),
            r.text("policy"),
            form,
            r.text("based_on"),
            data,
            started,
            available,
            outcome,
            consistency,
            preStep,
            role,
            size,
            encrypted,
            skipped,
            feed));
  }

  /**
   * @param recordedAt when this state of the copy became known
   */
  public Read<Copy> copy(String file, RawRow row, Instant recordedAt) {
    RowReader r = new RowReader(file, BundleFile.COPIES, row, now);
    CopyState state = r.code("state", CopyState.class, null);
    Instant finished = r.past("finished");
    Instant locked = r.time("locked_until");
    Instant expires = r.time("expires");
    Instant lastRead = r.past("last_read");
    Boolean passed =
        r.with("last_read_outcome", t -> switch (t.toLowerCase(java.util.Locale.ROOT)) {
          case "passed" -> true;
          case "failed" -> false;
          default -> throw new WrongValue("is not one of passed, failed");
        });
    String format = r.with("format", formats::apply);
    String place = r.place("place");
    String sha256 = r.sha256("sha256");
    String manifest = r.sha256("manifest");
    return done(
        r,
        () -> new Copy(
            r.text("point"),
            r.text("store"),
            finished,
            state,
            locked,
            expires,
            format,
            place,
            sha256,
            manifest,
            lastRead,
            passed,
            recordedAt,
            feed));
  }

  public Read<Job> job(String file, RawRow row) {
    RowReader r = new RowReader(file, BundleFile.JOBS, row, now);
    Job.Type type = r.code("type", Job.Type.class, null);
    Job.Result outcome = r.code("outcome", Job.Result.class, null);
    Instant started = r.past("started");
    Instant ended = r.past("ended");
    if (started != null && ended != null && ended.isBefore(started)) {
      r.reject("ended", "is before it was started " + started);
    }
    if (started == null && ended == null && r.text("started") == null && r.text("ended") == null) {
      r.reject("started", "is empty, and so is ended: when it ran can't be known");
    }
    Long bytes = r.size("bytes");
    return done(
        r,
        () -> new Job(
            r.text("key"),
            type,
            r.text("resource"),
            r.text("policy"),
            r.text("store"),
            started,
            ended,
            outcome,
            bytes,
            r.text("message")));
  }

  /** A proposal, whatever the row says of its approval: that is kept as the claim it is. */
  public Read<AcceptedException> exception(String file, RawRow row) {
    RowReader r = new RowReader(file, BundleFile.EXCEPTIONS, row, now);
    Selector scope = r.with("scope", selectors);
    Instant from = r.time("from");
    Instant until = r.time("until");
    if (r.text("scope") == null) {
      r.reject("scope", "is empty: an exception for everything is refused");
    }
    if (from != null && until != null && !until.isAfter(from)) {
      r.reject("until", "is not after from " + from);
    }
    String approver = r.text("approved_by");
    if (approver != null && approver.equalsIgnoreCase(r.text("proposed_by"))) {
      r.reject("approved_by", "is the proposer: another person must approve");
    }
    return done(
        r,
        () -> new AcceptedException(
            r.text("key"),
            scope,
            r.text("criterion"),
            r.text("reason"),
            r.text("proposed_by"),
            null,
            from,
            until,
            null,
            approver));
  }
}
