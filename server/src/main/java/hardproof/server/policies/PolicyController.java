package hardproof.server.policies;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.facts.Usability;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.FactWriter;
import hardproof.core.feeds.RawRow;
import hardproof.core.points.Consistency;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.core.proof.ResourceResult;
import hardproof.core.retention.Retention;
import hardproof.core.schedule.RunTimes;
import hardproof.core.wording.Wording;
import hardproof.server.estate.FactStore;
import hardproof.server.estate.OwnFacts;
import hardproof.server.estate.SelectorJson;
import hardproof.server.findings.DifferenceController.Differences;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.schedule.Schedules;
import hardproof.server.web.MayBeAbsent;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What is promised, what that can come to, and trying a change before it is made. */
@RestController
@RequestMapping("/api")
class PolicyController {
  private static final FactWriter WRITER = new FactWriter(SelectorJson::write);

  private final Evaluations evaluations;
  private final FactStore facts;
  private final OwnFacts own;
  private final Clock clock;

  PolicyController(Evaluations evaluations, FactStore facts, OwnFacts own, Clock clock) {
    this.evaluations = evaluations;
    this.facts = facts;
    this.own = own;
    this.clock = clock;
  }

  /**
   * A policy with what it can come to.
   *
   * @param fields as in the bundle
   * @param scope in words
   * @param also resources that were put under it here, one by one
   * @param promises sentences about schedule, window, retention and copies
   * @param cannot how many resources in scope it can't keep the RPO of, whatever happens
   * @param edited when this state was recorded; to be sent back as If-Match
   */
  record PolicyView(
      String key,
      String name,
      String feed,
      boolean ours,
      Map<String, String> fields,
      String scope,
      List<String> also,
      int inScope,
      int nearly,
      List<String> promises,
      int cannot,
      int windowTooShort,
      Instant edited) {}

  @GetMapping("/policies")
  List<PolicyView> policies(@RequestParam(required = false) Instant asAt) {
    Evaluated evaluated = evaluations.at(asAt);
    return evaluated.estate().facts().policies().stream()
        .map(p -> view(p, evaluated))
        .sorted(java.util.Comparator.comparing(PolicyView::name).thenComparing(PolicyView::key))
        .toList();
  }

  @GetMapping("/policies/{key}")
  ResponseEntity<PolicyView> policy(@PathVariable String key) {
    PolicyView view = view(find(key), evaluations.now());
    return ResponseEntity.ok().eTag(Long.toString(view.edited().toEpochMilli())).body(view);
  }

  private Policy find(String key) {
    return evaluations.now().estate().facts().policies().stream()
        .filter(p -> p.key().equals(key))
        .findFirst()
        .orElseThrow(() -> new NotFound("No policy '" + key + "' is known."));
  }

  private PolicyView view(Policy p, Evaluated evaluated) {
    Estate estate = evaluated.estate();
    FactStore.FactState state =
        facts.fact(BundleFile.POLICIES, List.of(p.key())).orElse(null);
    SelectorController.SelectorMatches matches = SelectorController.matches(p.scope(), estate);
    int cannot = 0;
    int tooShort = 0;
    for (Resource r : estate.facts().resources()) {
      ResourceResult result = evaluated.evaluation().resource(r.key());
      if (result != null && result.policies().contains(p)) {
        cannot += notMet(result, CriterionCode.FRESH_ON_PAPER) ? 1 : 0;
        tooShort += notMet(result, CriterionCode.FRESH_WINDOW) ? 1 : 0;
      }
    }
    return new PolicyView(
        p.key(),
        p.name(),
        state == null ? "" : state.feed(),
        state != null && state.feed().equals(OwnFacts.FEED),
        state == null ? WRITER.row(p) : state.values(),
        p.scope().words(),
        p.scope().also(),
        matches.matched(),
        matches.nearly(),
        promises(p, estate),
        cannot,
        tooShort,
        state == null ? Instant.EPOCH : state.recordedAt());
  }

  private static boolean notMet(ResourceResult result, CriterionCode code) {
    Outcome outcome = result.outcome(code);
    return outcome.state() == OutcomeState.NOT_MET || outcome.state() == OutcomeState.EXCEPTED;
  }

  private static List<String> promises(Policy p, Estate estate) {
    List<String> promises = new ArrayList<>();
    Instant asAt = estate.asAt();
    Duration gap = p.longestGap(asAt).orElse(null);
    RunTimes usual = usual(p, estate);
    if (gap == null) {
      promises.add("no schedule is stated: it promises no next point");
    } else if (usual == null) {
      promises.add("at best a point every " + Wording.duration(gap)
          + "; how long its runs take is not known yet");
    } else {
      promises.add("at best a loss of " + Wording.duration(gap.plus(usual.median())) + ": "
          + Wording.duration(gap) + " between starts at the longest and a usual run of "
          + Wording.duration(usual.median()) + " (1 in 20 takes " + Wording.duration(usual.p95())
          + ")");
    }
    if (p.startWindow() != null && p.completeWithin() != null && usual != null) {
      Duration sum = p.startWindow().plus(usual.median());
      promises.add(
          sum.compareTo(p.completeWithin()) > 0
              ? "its window is too short: a job that begins " + Wording.duration(p.startWindow())
                  + " late is done after " + Wording.duration(sum) + ", and must be within "
                  + Wording.duration(p.completeWithin())
              : "its window fits: done after " + Wording.duration(sum) + " at the latest, "
                  + Wording.duration(p.completeWithin()) + " allowed");
    }
    Retention retention = p.retention();
    Duration reach = retention.reachOnPaper(gap);
    if (reach == null) {
      promises.add("how long points are kept is not stated");
    } else {
      promises.add("keeps " + retention.words() + ": reaches " + Wording.duration(reach) + " back");
    }
    if (retention.longTailFulls() > 0) {
      List<Instant> data = dataTimes(p, estate);
      promises.add("its long tail needs " + retention.longTailFulls()
          + " separate fulls where storage shares no blocks"
          + (data.isEmpty()
              ? ""
              : "; of the points there are, "
                  + Retention.pointsNeeded(retention.slots(asAt, p.zone()), data)
                  + " serve every slot that can be served"));
    }
    p.copyTo()
        .forEach(t -> promises.add("a copy on " + estate.storeName(t.store()) + " within "
            + Wording.duration(t.deadline())));
    if (p.copyWindow() != null) {
      promises.add(
          "copies go on from " + p.copyWindow().from() + " to " + p.copyWindow().until() + " ("
              + (p.zone() instanceof java.time.ZoneOffset ? "UTC" : p.zone().getId()) + ")");
    }
    return promises;
  }

  /** Of the resource in scope whose runs usually take longest. */
  private static RunTimes usual(Policy p, Estate estate) {
    return estate.facts().resources().stream()
        .filter(r -> p.scope().matches(r, estate.tierOf(r)))
        .map(r -> RunTimes.of(newest(estate, r).stream()
            .map(point -> point.runTime())
            .filter(Objects::nonNull)
            .toList()))
        .filter(Objects::nonNull)
        .max(java.util.Comparator.comparing(RunTimes::median))
        .orElse(null);
  }

  private static List<hardproof.core.points.RecoveryPoint> newest(Estate estate, Resource r) {
    var all = estate.pointsOf(r.key());
    return all.subList(Math.max(0, all.size() - 30), all.size());
  }

  private static List<Instant> dataTimes(Policy p, Estate estate) {
    return estate.facts().resources().stream()
        .filter(r -> p.scope().matches(r, estate.tierOf(r)))
        .map(r ->
            estate.pointsOf(r.key()).stream().map(point -> point.dataTime()).toList())
        .max(java.util.Comparator.comparing(List::size))
        .orElse(List.of());
  }

  /** Fields of a policy as in the bundle; empty ones are not stated. */
  record PolicyForm(@NotEmpty Map<String, String> fields) {}

  /** @throws Refused with every field that can't be right */
  private Policy read(Map<String, String> fields) {
    Map<String, String> given = new HashMap<>(fields);
    given.values().removeIf(v -> v == null || v.isBlank());
    given.keySet().stream()
        .filter(f -> !BundleFile.POLICIES.hasField(f))
        .findFirst()
        .ifPresent(f -> {
          throw new Refused("'" + f + "' is no field of a policy.");
        });
    FactReader reader =
        new FactReader(OwnFacts.FEED, clock.instant(), SelectorJson::read, Schedules::read);
    FactReader.Read<Policy> read = reader.policy("policy", new RawRow(0, given));
    if (read.fact() == null) {
      throw new Refused(String.join(
          " ",
          read.rejections().stream()
              .map(r -> r.field() + (r.value() == null ? "" : " \"" + r.value() + "\"") + " "
                  + r.reason() + ".")
              .toList()));
    }
    return read.fact();
  }

  @PostMapping("/policies")
  @ResponseStatus(HttpStatus.CREATED)
  void add(@Valid @RequestBody PolicyForm form, Principal person) {
    own.put(BundleFile.POLICIES, read(form.fields()), null, person.getName(), now());
  }

  /** Changes a policy that was written here. If-Match carries the state that the editor saw. */
  @PutMapping("/policies/{key}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void change(
      @PathVariable String key,
      @RequestHeader("If-Match") String seen,
      @Valid @RequestBody PolicyForm form,
      Principal person) {
    Map<String, String> fields = new LinkedHashMap<>(form.fields());
    fields.put("key", key);
    long edited;
    try {
      edited = Long.parseLong(seen.replace("\"", ""));
    } catch (NumberFormatException e) {
      throw new IllegalArgumentException("If-Match is not the state of a policy", e);
    }
    own.put(
        BundleFile.POLICIES, read(fields), Instant.ofEpochMilli(edited), person.getName(), now());
  }

  private Instant now() {
    return clock.instant().truncatedTo(ChronoUnit.MILLIS);
  }

  /**
   * What a change would do.
   *
   * @param firstPoints what the next points would be and by when, for resources that come in scope
   */
  record PolicyTrial(Differences differences, List<String> firstPoints, int inScope) {}

  /**
   * A change to try: either changed fields, or resources to be put under a policy.
   *
   * @param resources keys; with {@code policy}
   */
  record PolicyTrialForm(
      @MayBeAbsent Map<String, String> fields,
      @MayBeAbsent String policy,
      @MayBeAbsent List<String> resources) {}

  @PostMapping("/policy-trials")
  PolicyTrial tryOut(@Valid @RequestBody PolicyTrialForm form) {
    Evaluated evaluated = evaluations.now();
    Policy changed = form.fields() != null
        ? read(form.fields())
        : find(Objects.requireNonNullElse(form.policy(), ""));
    if (form.fields() == null) {
      changed = changed.withScope(
          changed.scope().withAlso(form.resources() == null ? List.of() : form.resources()));
    }
    Estate before = evaluated.estate();
    Estate after = before.with(with(before.facts(), changed));
    Evaluation result = Evaluator.evaluate(after, evaluated.evaluation().standard());
    Policy policy = changed;
    List<Resource> scope = after.facts().resources().stream()
        .filter(r -> policy.scope().matches(r, after.tierOf(r)))
        .toList();
    List<String> first = scope.stream()
        .filter(r -> before.policiesOf(r).stream().noneMatch(p -> p.key().equals(policy.key())))
        .limit(20)
        .map(r -> firstPoint(policy, r, before))
        .toList();
    return new PolicyTrial(Differences.of(evaluated.evaluation(), result), first, scope.size());
  }

  private static Facts with(Facts f, Policy changed) {
    List<Policy> policies = new ArrayList<>();
    boolean there = false;
    for (Policy p : f.policies()) {
      policies.add(p.key().equals(changed.key()) ? changed : p);
      there |= p.key().equals(changed.key());
    }
    if (!there) {
      policies.add(changed);
    }
    return new Facts(
        f.feeds(),
        f.workloads(),
        f.resources(),
        f.stores(),
        policies,
        f.points(),
        f.copies(),
        f.jobs(),
        f.exceptions(),
        f.drills());
  }

  private static String firstPoint(Policy p, Resource r, Estate estate) {
    if (p.schedule() == null) {
      return r.name() + ": " + p.name() + " states no schedule, so no next point is promised";
    }
    Instant asAt = estate.asAt();
    RunTimes usual = usual(p, estate);
    return p.schedule()
        .recurrence()
        .nextAfter(asAt)
        .map(start -> {
          Instant done = usual == null ? start : start.plus(usual.median());
          return r.name() + ": the first point by " + Wording.time(done, asAt)
              + (usual == null
                  ? " and its run time"
                  : " (start " + Wording.time(start, asAt) + " and a usual run of "
                      + Wording.duration(usual.median()) + ")")
              + p.copyTo().stream()
                  .map(t -> ", its copy on " + estate.storeName(t.store()) + " by "
                      + Wording.time(done.plus(t.deadline()), asAt))
                  .reduce("", String::concat);
        })
        .orElse(r.name() + ": the schedule of " + p.name() + " starts no more");
  }

  /** Resources to be put under a policy, and why. */
  record PolicyAddition(
      @NotBlank String policy,
      @NotEmpty List<String> resources,
      @NotBlank @Size(max = 500) String reason) {}

  @PostMapping("/policy-additions")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void addResources(@Valid @RequestBody PolicyAddition addition, Principal person) {
    Policy policy = find(addition.policy());
    Estate estate = evaluations.now().estate();
    for (String key : addition.resources()) {
      Resource resource = estate.resource(key);
      if (resource == null) {
        throw new NotFound("No resource '" + key + "' is known.");
      }
      if (policy.scope().matches(resource, estate.tierOf(resource))) {
        throw new Refused(resource.name() + " is in the scope of " + policy.name() + " already.");
      }
    }
    own.addToPolicy(
        policy.key(), addition.resources(), addition.reason().strip(), person.getName(), now());
  }

  @DeleteMapping("/policy-additions/{policy}/{resource}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void removeResource(
      @PathVariable String policy, @PathVariable String resource, Principal person) {
    own.removeFromPolicy(policy, resource, person.getName(), now());
  }

  /** A point that is to go, and when. */
  record Leaving(
      String point, Instant dataTime, @MayBeAbsent Instant leaves) {}

  /**
   * What of a resource's points goes when, under its policy and if points go on coming.
   *
   * @param reach what is left on days to come
   */
  record NextToGo(
      String resource, @MayBeAbsent String policy, List<Leaving> points, List<ReachOn> reach) {}

  record ReachOn(Instant day, @MayBeAbsent Long reachMs) {}

  private static final List<Integer> DAYS_AHEAD = List.of(0, 1, 7, 14, 30, 60, 90);
  private static final int LEAVING_SHOWN = 60;

  @GetMapping("/resources/{key}/next-to-go")
  NextToGo nextToGo(@PathVariable String key, @RequestParam(required = false) Instant asAt) {
    Estate estate = evaluations.at(asAt).estate();
    Resource resource = estate.resource(key);
    if (resource == null) {
      throw new NotFound("No resource '" + key + "' is known.");
    }
    Resource protector = estate.protectorOf(resource);
    Policy policy = estate.policiesOf(protector).stream()
        .filter(p -> p.retention().stated())
        .findFirst()
        .orElse(null);
    List<Usability.Judged> usable =
        new ArrayList<>(Usability.of(estate, protector.key(), Consistency.UNKNOWN).points().stream()
            .filter(j -> j.usableAt(estate.asAt()))
            .toList());
    Collections.reverse(usable);
    List<Instant> data = usable.stream().map(j -> j.point().dataTime()).toList();
    List<Instant> leaves = policy == null
        ? Collections.nCopies(data.size(), null)
        : policy
            .retention()
            .leaves(
                data, policy.longestGap(estate.asAt()).orElse(null), estate.asAt(), policy.zone());
    List<Leaving> points = new ArrayList<>();
    for (int i = data.size() - 1; i >= 0 && points.size() < LEAVING_SHOWN; i--) {
      points.add(new Leaving(usable.get(i).point().key(), data.get(i), leaves.get(i)));
    }
    return new NextToGo(
        key,
        policy == null ? null : policy.name(),
        points,
        DAYS_AHEAD.stream()
            .map(d -> estate.asAt().plus(Duration.ofDays(d)))
            .map(day -> {
              Duration reach = Retention.reachOn(day, data, leaves);
              return new ReachOn(day, reach == null ? null : reach.toMillis());
            })
            .toList());
  }
}
