package hardproof.core;

import hardproof.core.census.CensusFact;
import hardproof.core.census.CensusState;
import hardproof.core.census.StoreListing;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.drills.RestoreState;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Job;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Medium;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Selector;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.FactKinds;
import hardproof.core.points.Consistency;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.retention.Retention;
import hardproof.core.schedule.Schedule;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * A small estate to put facts into: one workload of tier 3 (RPO 24 h, restored demanded every 180
 * days) with one file share at site A, a policy for everything and two stores. Invented data.
 */
public final class Given {
  public static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");

  public final List<Feed> feeds = new ArrayList<>();
  public final List<Workload> workloads = new ArrayList<>();
  public final List<Resource> resources = new ArrayList<>();
  public final List<Store> stores = new ArrayList<>();
  public final List<Policy> policies = new ArrayList<>();
  public final List<RecoveryPoint> points = new ArrayList<>();
  public final List<Copy> copies = new ArrayList<>();
  public final List<Job> jobs = new ArrayList<>();
  public final List<AcceptedException> exceptions = new ArrayList<>();
  public final List<DrillFact> drills = new ArrayList<>();
  public final List<RehearsalFact> rehearsals = new ArrayList<>();
  public final List<CensusFact> censuses = new ArrayList<>();
  public final List<StoreListing> listings = new ArrayList<>();

  public static Given estate() {
    Given g = new Given();
    g.workloads.add(workload("w", 3));
    g.resources.add(resource("r", Kind.FILE_SHARE, "w"));
    g.stores.add(store("near", "A", Medium.DISK, "array", true));
    g.stores.add(store("far", "B", Medium.TAPE, null, false));
    g.policies.add(policy("p", Duration.ofHours(24)));
    return g;
  }

  private static <T> Given change(
      Given g, List<T> all, Predicate<T> which, FactKind<T> kind, String... fields) {
    T fact = all.stream().filter(which).reduce((a, b) -> b).orElseThrow();
    all.set(all.lastIndexOf(fact), Fields.with(kind, fact, fields));
    return g;
  }

  /** The resource {@code r} with other fields, as {@link Fields#with} takes them. */
  public Given theResource(String... fields) {
    return change(this, resources, r -> r.key().equals("r"), FactKinds.RESOURCES, fields);
  }

  /** The same resource, told of by another feed. */
  public static Resource toldBy(String feed, Resource r) {
    return new Resource(
        r.key(),
        r.name(),
        r.kind(),
        r.links(),
        r.place(),
        r.volume(),
        r.seen(),
        r.credentials(),
        r.tags(),
        r.importantPaths(),
        feed);
  }

  /** The policy {@code p} with other fields. */
  public Given thePolicy(String... fields) {
    return change(this, policies, p -> p.key().equals("p"), FactKinds.POLICIES, fields);
  }

  /** The workload {@code w} with other fields. */
  public Given theWorkload(String... fields) {
    return change(this, workloads, w -> w.key().equals("w"), FactKinds.WORKLOADS, fields);
  }

  /** A store with other fields. */
  public Given theStore(String key, String... fields) {
    return change(this, stores, s -> s.key().equals(key), FactKinds.STORES, fields);
  }

  /** A point with other fields. */
  public Given thePoint(String key, String... fields) {
    return change(this, points, p -> p.key().equals(key), FactKinds.POINTS, fields);
  }

  /** The newest told copy of a point on a store with other fields. */
  public Given theCopy(String point, String store, String... fields) {
    return change(
        this,
        copies,
        c -> c.point().equals(point) && c.store().equals(store),
        FactKinds.COPIES,
        fields);
  }

  /** For everything; keeps the last 14. */
  public static Policy policy(String key, Duration every, Policy.CopyTarget... copies) {
    return new Policy(
        key,
        "Daily",
        Selector.EVERYTHING,
        every == null ? null : Schedule.every(every),
        new Policy.JobWindow(null, null),
        new Retention(14, null, null, null, null),
        null,
        null,
        null,
        List.of(copies),
        null,
        List.of());
  }

  public static Workload workload(String key, Integer tier) {
    return new Workload(
        key, "Workload " + key, "Owner", tier, List.of(), null, null, null, null, null);
  }

  public static Resource resource(String key, Kind kind, String workload) {
    return resource(key, kind, workload, null, Map.of());
  }

  public static Resource resource(
      String key, Kind kind, String workload, String parent, Map<String, String> tags) {
    return new Resource(
        key,
        key.toUpperCase(java.util.Locale.ROOT),
        kind,
        new Resource.Links(workload, parent, List.of()),
        new Resource.Place("A", "nordal", "production"),
        new Resource.Volume(null, null),
        new Resource.Seen(NOW.minus(Duration.ofDays(100)), null, null, null),
        new Resource.Credentials(null, null),
        tags,
        List.of(),
        "feed");
  }

  public static Store store(String key, String site, Medium medium, String domain, Boolean online) {
    return new Store(
        key,
        key.toUpperCase(java.util.Locale.ROOT),
        site,
        "nordal",
        medium,
        domain,
        online,
        null,
        null,
        100_000_000L,
        "/" + key,
        null);
  }

  /** A complete full, with data {@code hoursAgo} before NOW, available half an hour later, on both stores. */
  public Given point(String key, double hoursAgo) {
    return point(key, "r", Form.FULL, null, hoursAgo, PointOutcome.COMPLETE)
        .copy(key, "near")
        .copy(key, "far");
  }

  public Given point(
      String key, String resource, Form form, String base, double hoursAgo, PointOutcome outcome) {
    Instant data = NOW.minusSeconds((long) (hoursAgo * 3600));
    points.add(new RecoveryPoint(
        key,
        resource,
        "p",
        form,
        base,
        new RecoveryPoint.Times(data, null, data.plus(Duration.ofMinutes(30))),
        outcome,
        new RecoveryPoint.Taken(Consistency.FILE, null, null),
        new RecoveryPoint.Content(1000L, null, null),
        "feed"));
    return this;
  }

  public Given copy(String point, String store) {
    return copy(point, store, CopyState.PRESENT, NOW.minus(Duration.ofDays(20)));
  }

  public Given copy(String point, String store, CopyState state, Instant recordedAt) {
    Instant finished = points.stream()
        .filter(p -> p.key().equals(point))
        .findFirst()
        .map(RecoveryPoint::available)
        .orElse(null);
    copies.add(new Copy(
        point,
        store,
        finished,
        state,
        null,
        null,
        new Copy.Artifact("tar.gz", point, null, null),
        new Copy.ReadBack(null, null),
        recordedAt,
        "feed"));
    return this;
  }

  public Given drill(String point, Method method, boolean passed, double daysAgo) {
    return drill(
        point, "near", method, passed, daysAgo, passed ? null : point, passed ? null : "near");
  }

  public Given drill(
      String point,
      String store,
      Method method,
      boolean passed,
      double daysAgo,
      String blamedPoint,
      String blamedStore) {
    Instant ended = NOW.minusSeconds((long) (daysAgo * 86400));
    String resource = points.stream()
        .filter(p -> p.key().equals(point))
        .findFirst()
        .map(RecoveryPoint::resource)
        .orElse("r");
    drills.add(new DrillFact(
        "run" + drills.size(),
        new DrillFact.Of(resource, point, store),
        method,
        method.rung(),
        new DrillFact.Answers(
            RestoreState.DONE, passed ? ChecksState.PASSED : ChecksState.FAILED, CleanupState.DONE),
        new DrillFact.Times(ended.minusSeconds(60), ended, ended),
        1000,
        new DrillFact.Blame(blamedPoint, blamedStore),
        passed ? "all files equal" : "checksum differs"));
    return this;
  }

  /** The newest census of a store found this of the copy of a point, an hour ago. */
  public Given listed(String point, String store, CensusState state) {
    String resource = points.stream()
        .filter(p -> p.key().equals(point))
        .findFirst()
        .map(RecoveryPoint::resource)
        .orElse("r");
    censuses.add(new CensusFact(
        censuses.size() + 1,
        1,
        resource,
        point,
        store,
        NOW.minus(Duration.ofHours(1)),
        state,
        null,
        state.differs() ? point + " is not as it is claimed" : "there"));
    return this;
  }

  /** A census found, an hour ago, until when the store keeps the copy of a point from change; null: not at all. */
  public Given locked(String point, String store, CensusState state, @Nullable Instant until) {
    listed(point, store, state);
    CensusFact c = censuses.remove(censuses.size() - 1);
    censuses.add(new CensusFact(
        c.id(),
        c.census(),
        c.resource(),
        point,
        store,
        c.at(),
        state,
        until,
        until == null ? "the store says that it is not locked" : c.sentence()));
    return this;
  }

  /** A list of a store ended at an instant. */
  public Given listing(String store, Instant at, boolean whole, long things, long untold) {
    listings.add(new StoreListing(
        listings.size() + 1L,
        store,
        at,
        whole,
        things,
        things * 1000,
        untold,
        untold * 1000,
        whole ? "listed" : "it broke off"));
    return this;
  }

  /** The newest drill took so long, and read so much. */
  public Given took(Duration took, long bytes) {
    DrillFact d = drills.remove(drills.size() - 1);
    drills.add(new DrillFact(
        d.run(),
        d.of(),
        d.method(),
        d.reaches(),
        d.answers(),
        new DrillFact.Times(d.ended().minus(took), d.ended(), d.ended()),
        bytes,
        d.blame(),
        d.sentence()));
    return this;
  }

  /** A rehearsal of the workload {@code w} that just ended, of which all drills so far were members. */
  public Given rehearsed(RehearsalFact.Outcome outcome, Duration clock) {
    Instant ended =
        drills.stream().map(DrillFact::ended).max(Instant::compareTo).orElse(NOW);
    rehearsals.add(new RehearsalFact(
        "rehearsal" + rehearsals.size(),
        "w",
        ended,
        null,
        outcome,
        ended.minus(clock),
        ended,
        clock,
        null,
        drills.stream()
            .map(d -> new RehearsalFact.Member(d.resource(), d.run(), d.store()))
            .toList(),
        "as it went"));
    return this;
  }

  public Facts facts() {
    return new Facts(
            feeds, workloads, resources, stores, policies, points, copies, jobs, exceptions, drills)
        .withRehearsals(rehearsals)
        .withCensuses(List.copyOf(censuses))
        .withListings(listings);
  }

  public Estate at(Instant instant) {
    return new Estate(instant, facts());
  }

  public Evaluation evaluate() {
    return Evaluator.evaluate(at(NOW), Standard.shipped());
  }

  public WorkloadResult result() {
    return evaluate().workload("w");
  }

  public Outcome outcome(CriterionCode code) {
    return result().members().get(0).outcomes().stream()
        .filter(o -> o.criterion() == code)
        .findFirst()
        .orElseThrow();
  }
}
