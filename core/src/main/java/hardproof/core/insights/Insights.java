package hardproof.core.insights;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.criteria.Standard;
import hardproof.core.criteria.Subject;
import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Job;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.ladder.Rung;
import hardproof.core.points.ExposureCurve;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * A period in figures, by what is known at its end. Pure.
 *
 * @param attainment by tier, 1 first, as far as feeds have spoken; resources left out by an exception are
 *     not counted
 * @param gained proofs that began in the period: a drill reached the demanded rung and the resource
 *     was not proven before it
 * @param lapsed proofs that ended in the period without another one in time
 * @param meanToFix mean time from opening to closing of the findings that closed; null when none did
 * @param openAtStart findings that were open when the period began
 * @param opened findings that opened in it; likewise {@code closed}
 * @param openAtEnd those that are still open
 */
public record Insights(
    Instant from,
    Instant to,
    List<TierAttainment> attainment,
    List<ProofChange> gained,
    List<ProofChange> lapsed,
    List<FailureCause> failures,
    int openAtStart,
    int opened,
    int closed,
    int openAtEnd,
    Duration meanToFix,
    List<TrendPoint> trend) {
  private static final int TREND_POINTS = 9;

  /** Equal parts of the period that attainment is also given for. */
  private static final int PARTS = 12;

  /**
   * How the RPO was kept in a tier.
   *
   * @param mean mean of its resources' shares, 0 to 1
   * @param worst the smallest share, of {@code worstName}
   * @param kept resources that kept it all the time
   * @param course mean share in each twelfth of the period, the first first; null where nothing was
   *     counted
   */
  public record TierAttainment(
      int tier,
      int resources,
      double mean,
      double worst,
      String worstName,
      int kept,
      List<Double> course) {}

  /** A proof that began or ended. */
  public record ProofChange(String resource, String name, Integer tier, Rung rung, Instant at) {}

  /** Why something failed, and how often. {@code kind} is backup, copy, restore, point or drill. */
  public record FailureCause(
      String kind, String cause, int times, int resources, Instant first, Instant last) {}

  /**
   * What was stored at an instant.
   *
   * @param bytes of all copies that are present, as far as sizes are known
   * @param medianReach of the resources that have points; null when none has
   */
  public record TrendPoint(Instant at, long points, long bytes, Duration medianReach) {}

  /**
   * @param stretches of findings that touch the period
   * @param about whether a resource, by its key, is looked at
   */
  public static Insights of(
      Estate estate,
      Standard standard,
      Instant from,
      List<Stretch> stretches,
      Predicate<String> about) {
    Instant to = estate.asAt();
    List<ProofChange> gained = new ArrayList<>();
    List<ProofChange> lapsed = new ArrayList<>();
    Map<Integer, List<Share>> shares = new TreeMap<>();
    for (Resource resource : resources(estate, about)) {
      boolean leftOut = estate.exceptionsOf(resource).stream().anyMatch(e -> e.criterion() == null);
      if (leftOut) {
        continue;
      }
      Subject s = new Subject(estate, standard, resource);
      ExposureCurve.Summary summary = s.curve()
          .over(
              from.toEpochMilli(), s.horizon().toEpochMilli(), s.demand().rpo().toMillis());
      int tier =
          s.workload() == null || s.workload().tier() == null ? 1 : s.workload().tier();
      summary
          .attainment()
          .ifPresent(a -> shares
              .computeIfAbsent(tier, k -> new ArrayList<>())
              .add(new Share(resource.name(), a, course(s, from, to))));
      proofs(s, from, to, gained, lapsed);
    }
    Comparator<ProofChange> byTime =
        Comparator.comparing(ProofChange::at).thenComparing(ProofChange::resource);
    gained.sort(byTime);
    lapsed.sort(byTime);
    int opened = 0;
    int closed = 0;
    int atStart = 0;
    int atEnd = 0;
    long toFix = 0;
    for (Stretch stretch : stretches) {
      boolean inside = stretch.opened().isAfter(from) && !stretch.opened().isAfter(to);
      boolean ended = stretch.closed() != null && !stretch.closed().isAfter(to);
      opened += inside ? 1 : 0;
      atStart += inside || stretch.opened().isAfter(to) ? 0 : 1;
      atEnd += ended ? 0 : 1;
      if (ended) {
        closed++;
        toFix += Duration.between(stretch.opened(), stretch.closed()).toMillis();
      }
    }
    return new Insights(
        from,
        to,
        attainment(shares),
        gained,
        lapsed,
        failures(estate, from, to, about),
        atStart,
        opened,
        closed,
        atEnd,
        closed == 0 ? null : Duration.ofMillis(toFix / closed),
        trend(estate, from, to, about));
  }

  private static List<Resource> resources(Estate estate, Predicate<String> about) {
    return estate.facts().resources().stream().filter(r -> about.test(r.key())).toList();
  }

  /**
   * @param course share in each part of the period; NaN where nothing was counted
   */
  private record Share(String name, double share, double[] course) {}

  private static double[] course(Subject s, Instant from, Instant to) {
    double[] course = new double[PARTS];
    long begin = from.toEpochMilli();
    long length = to.toEpochMilli() - begin;
    long told = s.horizon().toEpochMilli();
    for (int i = 0; i < PARTS; i++) {
      course[i] = s.curve()
          .over(
              begin + length * i / PARTS,
              Math.min(told, begin + length * (i + 1) / PARTS),
              s.demand().rpo().toMillis())
          .attainment()
          .orElse(Double.NaN);
    }
    return course;
  }

  private static List<Double> meanCourse(List<Share> all) {
    return IntStream.range(0, PARTS)
        .mapToObj(i -> all.stream()
            .mapToDouble(s -> s.course()[i])
            .filter(share -> !Double.isNaN(share))
            .average())
        .map(mean -> mean.isPresent() ? (Double) mean.getAsDouble() : null)
        .collect(Collectors.toList());
  }

  private static List<TierAttainment> attainment(Map<Integer, List<Share>> shares) {
    List<TierAttainment> tiers = new ArrayList<>();
    shares.forEach((tier, all) -> {
      Share worst = all.stream()
          .min(Comparator.comparingDouble(Share::share).thenComparing(Share::name))
          .orElseThrow();
      tiers.add(new TierAttainment(
          tier,
          all.size(),
          all.stream().mapToDouble(Share::share).average().orElseThrow(),
          worst.share(),
          worst.name(),
          (int) all.stream().filter(s -> s.share() >= 1).count(),
          meanCourse(all)));
    });
    return tiers;
  }

  private static void proofs(
      Subject s, Instant from, Instant to, List<ProofChange> gained, List<ProofChange> lapsed) {
    Rung demanded = Rung.lower(s.demand().rung(), s.resource().kind().highestRung());
    Duration lasts = s.demand().proofPeriod();
    Integer tier = s.workload() == null ? null : s.workload().tier();
    Instant provenUntil = null;
    for (DrillFact drill : s.estate().drillsOf(s.protector().key())) {
      if (!drill.passed() || !drill.rung().atLeast(demanded)) {
        continue;
      }
      Instant at = drill.ended();
      boolean begins = provenUntil == null || at.isAfter(provenUntil);
      if (begins && provenUntil != null && in(provenUntil, from, to)) {
        lapsed.add(
            new ProofChange(s.resource().key(), s.resource().name(), tier, demanded, provenUntil));
      }
      if (begins && in(at, from, to)) {
        gained.add(
            new ProofChange(s.resource().key(), s.resource().name(), tier, drill.rung(), at));
      }
      provenUntil = at.plus(lasts);
    }
    if (provenUntil != null && in(provenUntil, from, to)) {
      lapsed.add(
          new ProofChange(s.resource().key(), s.resource().name(), tier, demanded, provenUntil));
    }
  }

  private static boolean in(Instant at, Instant from, Instant to) {
    return at.isAfter(from) && !at.isAfter(to);
  }

  /** Failed jobs by type and message, points that are not complete, and drills that failed. */
  public static List<FailureCause> failures(
      Estate estate, Instant from, Instant to, Predicate<String> about) {
    Map<String, List<Failed>> byCause = new HashMap<>();
    for (Job job : estate.facts().jobs()) {
      Instant at = job.ended() == null ? job.started() : job.ended();
      boolean looked = about.test(job.resource() == null ? "" : job.resource());
      if (looked && job.outcome() == Job.Result.FAILED && in(at, from, to)) {
        add(byCause, job.type().code(), text(job.message()), job.resource(), at);
      }
    }
    for (Resource resource : resources(estate, about)) {
      PointSet set = estate.pointSet(resource.key());
      for (int row = 0; row < set.size(); row++) {
        if (set.outcome(row) != PointOutcome.COMPLETE) {
          long available = set.available(row);
          Instant at =
              Instant.ofEpochMilli(available == PointSet.NONE ? set.dataTime(row) : available);
          if (in(at, from, to)) {
            add(byCause, "point", "its outcome is " + set.outcome(row).code(), resource.key(), at);
          }
        }
      }
    }
    for (DrillFact drill : estate.facts().drills()) {
      if (drill.failed() && about.test(drill.resource()) && in(drill.ended(), from, to)) {
        add(byCause, "drill", text(drill.sentence()), drill.resource(), drill.ended());
      }
    }
    List<FailureCause> causes = new ArrayList<>();
    byCause.forEach((key, failed) -> {
      String[] kindAndCause = key.split("\u0000", 2);
      causes.add(new FailureCause(
          kindAndCause[0],
          kindAndCause[1],
          failed.size(),
          (int)
              failed.stream().map(f -> String.valueOf(f.resource())).distinct().count(),
          failed.stream().map(Failed::at).min(Comparator.naturalOrder()).orElseThrow(),
          failed.stream().map(Failed::at).max(Comparator.naturalOrder()).orElseThrow()));
    });
    causes.sort(Comparator.comparing(FailureCause::times)
        .reversed()
        .thenComparing(FailureCause::kind)
        .thenComparing(FailureCause::cause));
    return causes;
  }

  private record Failed(String resource, Instant at) {}

  private static String text(String message) {
    return message == null || message.isBlank() ? "no message" : message;
  }

  private static void add(
      Map<String, List<Failed>> byCause, String kind, String cause, String resource, Instant at) {
    byCause
        .computeIfAbsent(kind + "\u0000" + cause, k -> new ArrayList<>())
        .add(new Failed(resource, at));
  }

  private static List<TrendPoint> trend(
      Estate estate, Instant from, Instant to, Predicate<String> about) {
    List<TrendPoint> trend = new ArrayList<>();
    List<Resource> resources = resources(estate, about);
    long step = Duration.between(from, to).toMillis() / (TREND_POINTS - 1);
    for (int i = 0; i < TREND_POINTS; i++) {
      Instant at = i == TREND_POINTS - 1 ? to : from.plusMillis(step * i);
      long points = 0;
      long bytes = 0;
      List<Duration> reaches = new ArrayList<>();
      for (Resource resource : resources) {
        PointSet set = estate.pointSet(resource.key());
        Instant oldest = null;
        for (RecoveryPoint p : set.points()) {
          int copies = 0;
          for (Copy copy : set.copiesOf(p)) {
            copies += thereAt(copy, at) ? 1 : 0;
          }
          if (copies > 0) {
            points++;
            bytes += p.sizeBytes() == null ? 0 : p.sizeBytes() * copies;
            oldest = oldest == null ? p.dataTime() : oldest;
          }
        }
        if (oldest != null) {
          reaches.add(Duration.between(oldest, at));
        }
      }
      reaches.sort(Comparator.naturalOrder());
      trend.add(new TrendPoint(
          at, points, bytes, reaches.isEmpty() ? null : reaches.get(reaches.size() / 2)));
    }
    return trend;
  }

  private static boolean thereAt(Copy copy, Instant at) {
    return copy.finished() != null
        && !copy.finished().isAfter(at)
        && (copy.state() == CopyState.PRESENT || copy.recordedAt().isAfter(at))
        && (copy.expires() == null || copy.expires().isAfter(at));
  }

  /** The whole in a few sentences that somebody who is not of the trade understands. */
  public List<String> sentences() {
    List<String> sentences = new ArrayList<>();
    for (TierAttainment t : attainment) {
      sentences.add("Tier " + t.tier() + ": the promised limit of data loss was kept "
          + Wording.share(t.mean()) + " of the time on average over "
          + Wording.count(t.resources(), "resource", "resources") + "; "
          + (t.kept() == t.resources()
              ? "all of them kept it throughout."
              : t.kept() + " kept it throughout, and " + t.worstName() + " did worst with "
                  + Wording.share(t.worst()) + "."));
    }
    sentences.add(Wording.count(gained.size(), "proof of recovery was", "proofs of recovery were")
        + " gained and " + lapsed.size() + " lapsed.");
    sentences.add(Wording.count(opened, "gap", "gaps") + " opened, " + closed + " closed, and "
        + openAtEnd + (openAtEnd == 1 ? " is" : " are") + " open now"
        + (meanToFix == null
            ? "; none that closed to measure by."
            : "; a gap that closed had been open for " + Wording.duration(meanToFix)
                + " on average."));
    return sentences;
  }
}
