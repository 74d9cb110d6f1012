package hardproof.server.survival;

import hardproof.core.drills.RehearsalFact;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Medium;
import hardproof.core.estate.Store;
import hardproof.core.ladder.Rung;
import hardproof.core.losses.Loss;
import hardproof.core.rehearsals.RehearsedLoss;
import hardproof.core.survival.Aftermath;
import hardproof.core.survival.Fate;
import hardproof.core.survival.LossRank;
import hardproof.core.survival.Remedy;
import hardproof.core.survival.Survival;
import hardproof.core.wording.Wording;
import hardproof.server.programmes.CapacityStore;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import io.swagger.v3.oas.annotations.Operation;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What is left after a loss. */
@RestController
@RequestMapping("/api/survival")
class SurvivalController {
  private static final int REMEDIES = 5;

  private final Evaluations evaluations;
  private final CapacityStore capacities;

  /** Of the evaluation that was asked about last: losses are tried one after another. */
  private @Nullable Prepared prepared;

  private record Prepared(Evaluated of, Survival survival) {}

  SurvivalController(Evaluations evaluations, CapacityStore capacities) {
    this.evaluations = evaluations;
    this.capacities = capacities;
  }

  /** Made once, however many ask for it together, as the page does. */
  private synchronized Survival survival(Evaluated evaluated) {
    Prepared last = prepared;
    if (last == null || last.of() != evaluated) {
      last = new Prepared(evaluated, Survival.of(evaluated.estate(), evaluated.evaluation()));
      prepared = last;
    }
    return last.survival();
  }

  /**
   * A store as a plate.
   *
   * @param domain the failure domain that it names; its own where it names none
   * @param bytes of its copies, as far as sizes are known
   * @param lost whether the loss takes it
   */
  record Plate(
      String key,
      String name,
      @Nullable String site,
      @Nullable String region,
      String domain,
      Medium medium,
      @Nullable Boolean online,
      long bytes,
      boolean lost) {}

  /**
   * What becomes of a workload. Times are milliseconds.
   *
   * @param fate lost, late, not-known, survives or had-nothing
   * @param exposureMs how old the data of its oldest member is that comes back; null where one does not
   * @param reachMs how far back the points go of the member of which they go back least
   * @param backMs until all of it is back; null where it is not, or nobody knows
   * @param rung the highest that was shown of all its members from a copy that is left
   * @param rehearsedAt when it was last brought back whole, in time, from nothing that the loss takes; null where it
   *     was not in the proof period
   */
  record FateLine(
      String workload,
      String name,
      @Nullable Integer tier,
      Fate fate,
      String sentence,
      @Nullable Long exposureMs,
      @Nullable Long reachMs,
      long rpoMs,
      @Nullable Long backMs,
      long rtoMs,
      @Nullable Rung rung,
      Rung demanded,
      @Nullable Instant rehearsedAt) {}

  /** When a tier is back: milliseconds, and how many of its workloads come back at all. */
  record TierBack(int tier, @Nullable Long backMs, int back, int all) {}

  /**
   * The whole.
   *
   * @param asAt the instant that is judged
   * @param loss in words
   * @param sentence how many survive, are late and are lost
   * @param atOnce restores that go on at once
   * @param bytes to restore
   * @param proof how the claim is known: computed, or rehearsed of how many
   * @param holders people and places of keys that can be lost
   * @param feeds that can be tainted
   */
  record SurvivalView(
      Instant asAt,
      String loss,
      String sentence,
      int atOnce,
      long bytes,
      String proof,
      List<Plate> plates,
      List<TierBack> tiers,
      List<FateLine> workloads,
      List<String> holders,
      List<String> feeds) {}

  /**
   * Something that would have more survive.
   *
   * @param copied keys of resources whose newest points are copied or locked
   * @param keyed keys of resources whose keys get one more place
   * @param saved workloads that survive by it; {@code still} are lost with it too
   * @param bytes to copy, as far as sizes are known
   */
  record RemedyLine(
      String words,
      Remedy.Kind kind,
      @Nullable String store,
      List<String> copied,
      List<String> keyed,
      int saved,
      int still,
      long bytes) {}

  @Operation(summary = "What is left of every workload after a loss, and when it is back")
  @GetMapping
  SurvivalView after(@ParameterObject LossQuery query, @ParameterObject AsAt asAt) {
    Evaluated evaluated = evaluations.at(asAt);
    Survival survival = survival(evaluated);
    Loss loss = query.loss(evaluated.estate());
    int atOnce =
        query.restores(capacities.at(evaluated.estate().asAt()).capacity().atOnce());
    Aftermath after = survival.after(loss, atOnce);
    Map<String, Long> bytes = survival.bytesByStore();
    List<FateLine> lines =
        after.lines().stream().map(l -> line(evaluated, loss, l)).toList();
    return new SurvivalView(
        evaluated.estate().asAt(),
        loss.words(evaluated.estate()::storeName),
        after.sentence(),
        atOnce,
        after.bytes(),
        proof(lines),
        survival.stores().stream().map(s -> plate(s, loss, bytes)).toList(),
        tiers(after),
        lines,
        survival.holders(),
        evaluated.estate().facts().feeds().stream().map(Feed::key).toList());
  }

  @Operation(summary = "What would have more survive a loss, what saves most first: at most five")
  @GetMapping("/remedies")
  List<RemedyLine> remedies(@ParameterObject LossQuery query, @ParameterObject AsAt asAt) {
    Evaluated evaluated = evaluations.at(asAt);
    return survival(evaluated).remedies(query.loss(evaluated.estate())).stream()
        .limit(REMEDIES)
        .map(r -> new RemedyLine(
            r.words(evaluated.estate()::storeName),
            r.kind(),
            r.store(),
            r.copied(),
            r.keyed(),
            r.saved(),
            r.still(),
            r.bytes()))
        .toList();
  }

  /** For people. */
  private static String proof(List<FateLine> lines) {
    List<FateLine> survive =
        lines.stream().filter(l -> l.fate() == Fate.SURVIVES).toList();
    List<Instant> rehearsed = survive.stream()
        .map(FateLine::rehearsedAt)
        .filter(Objects::nonNull)
        .sorted()
        .toList();
    return rehearsed.isEmpty()
        ? "computed from facts; none was rehearsed from what would be left"
        : "computed from facts; " + rehearsed.size() + " of "
            + Wording.count(survive.size(), "survivor", "survivors")
            + (rehearsed.size() == 1 ? " was" : " were") + " rehearsed from what would be left";
  }

  private static Plate plate(Store s, Loss loss, Map<String, Long> bytes) {
    return new Plate(
        s.key(),
        s.name(),
        s.site(),
        s.region(),
        s.effectiveFailureDomain(),
        s.medium(),
        s.online(),
        bytes.getOrDefault(s.key(), 0L),
        loss.takes(s));
  }

  private static List<TierBack> tiers(Aftermath after) {
    Set<Integer> tiers = new TreeSet<>();
    after.lines().forEach(l -> tiers.add(l.workload().heldTo()));
    return tiers.stream()
        .map(t -> {
          var own =
              after.lines().stream().filter(l -> l.workload().heldTo() == t).toList();
          return new TierBack(
              t,
              after.backByTier().get(t),
              (int) own.stream().filter(l -> l.back() != null).count(),
              own.size());
        })
        .toList();
  }

  private static FateLine line(Evaluated evaluated, Loss loss, Aftermath.Line l) {
    Duration period = evaluated.evaluation().standard().demandOn(l.workload()).proofPeriod();
    return new FateLine(
        l.workload().key(),
        l.workload().name(),
        l.workload().tier(),
        l.fate(),
        l.sentence(),
        l.exposure() == null ? null : l.exposure().toMillis(),
        l.reach() == null ? null : l.reach().toMillis(),
        l.rpo().toMillis(),
        l.back(),
        l.rto().toMillis(),
        l.rung(),
        l.demanded(),
        RehearsedLoss.of(evaluated.estate(), l.workload().key(), loss, period, l.rto())
            .map(RehearsalFact::ended)
            .orElse(null));
  }

  /**
   * A loss beside all others.
   *
   * @param lost workloads of which nothing would be left of a member or of what it needs, and something is without it
   * @param late workloads that would come back with data older than their RPO, and would not without it
   */
  record RankLine(String words, LossDraft loss, int lost, int late) {}

  @Operation(summary = "Losses beside each other, what hurts most first")
  @GetMapping("/ranking")
  List<RankLine> ranking(@ParameterObject AsAt asAt) {
    Evaluated evaluated = evaluations.at(asAt);
    return survival(evaluated).ranking().stream().map(r -> line(evaluated, r)).toList();
  }

  private static RankLine line(Evaluated evaluated, LossRank r) {
    return new RankLine(
        r.loss().words(evaluated.estate()::storeName),
        LossDraft.of(r.loss()),
        r.lost().size(),
        r.late().size());
  }
}
