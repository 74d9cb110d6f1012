package hardproof.core.policies;

import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.retention.Retention;
import hardproof.core.schedule.RunTimes;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What a policy can come to, by its own words and by how long the runs in its scope take. Pure.
 *
 * @param bestLoss the least that may be lost just before a point is there: longest gap between starts
 *     + median run of the slowest resource in scope; null when either is not known
 * @param windowTooShort whether a job that begins at the end of its start window can't be done in time
 * @param reach how far back what it keeps reaches; null when nothing is stated
 * @param sentences all of it for people
 */
public record Promises(
    @Nullable Duration bestLoss,
    boolean windowTooShort,
    @Nullable Duration reach,
    List<String> sentences) {
  /** The newest of a resource's points that usual run times are taken from. */
  private static final int USUAL_OF = 30;

  /** As at the estate's instant, with the resources that its scope then has. */
  public static Promises of(Policy policy, Estate estate) {
    List<Resource> scope = scope(policy, estate);
    Duration gap = policy.longestGap(estate.asAt()).orElse(null);
    RunTimes usual = slowest(scope, estate);
    List<String> sentences = new ArrayList<>();
    sentences.add(schedule(gap, usual));
    boolean tooShort = windowTooShort(policy, usual, sentences);
    Duration reach = addRetention(policy, estate, scope, gap, sentences);
    addCopies(policy, estate, sentences);
    return promises(gap, usual, sentences, tooShort, reach);
  }

  private static boolean windowTooShort(Policy policy, RunTimes usual, List<String> sentences) {
    boolean tooShort = false;
    if (policy.startWindow() != null && policy.completeWithin() != null && usual != null) {
      Duration sum = policy.startWindow().plus(usual.median());
      tooShort = sum.compareTo(policy.completeWithin()) > 0;
      sentences.add(
          tooShort
              ? "its window is too short: a job that begins "
                  + Wording.duration(policy.startWindow()) + " late is done after "
                  + Wording.duration(sum) + ", and must be within "
                  + Wording.duration(policy.completeWithin())
              : "its window fits: done after " + Wording.duration(sum) + " at the latest, "
                  + Wording.duration(policy.completeWithin()) + " allowed");
    }
    return tooShort;
  }

  private static Duration addRetention(
      Policy policy, Estate estate, List<Resource> scope, Duration gap, List<String> sentences) {
    Retention retention = policy.retention();
    Duration reach = retention.reachOnPaper(gap);
    sentences.add(
        reach == null
            ? "how long points are kept is not stated"
            : "keeps " + retention.words() + ": reaches " + Wording.duration(reach) + " back");
    if (retention.longTailFulls() > 0) {
      sentences.add(longTail(policy, scope, estate));
    }
    return reach;
  }

  private static void addCopies(Policy policy, Estate estate, List<String> sentences) {
    policy
        .copyTo()
        .forEach(t -> sentences.add("a copy on " + estate.storeName(t.store()) + " within "
            + Wording.duration(t.deadline())));
    if (policy.copyWindow() != null) {
      sentences.add("copies go on from " + policy.copyWindow().from() + " to "
          + policy.copyWindow().until() + " (" + name(policy.zone()) + ")");
    }
  }

  private static Promises promises(
      Duration gap, RunTimes usual, List<String> sentences, boolean tooShort, Duration reach) {
    return new Promises(
        gap == null || usual == null ? null : gap.plus(usual.median()),
        tooShort,
        reach,
        List.copyOf(sentences));
  }

  private static String name(ZoneId zone) {
    return zone.equals(ZoneOffset.UTC) ? "UTC" : zone.getId();
  }

  private static List<Resource> scope(Policy policy, Estate estate) {
    return estate.facts().resources().stream()
        .filter(r -> policy.scope().matches(r, estate.tierOf(r)))
        .toList();
  }

  private static RunTimes slowest(List<Resource> scope, Estate estate) {
    return scope.stream()
        .map(r -> {
          List<RecoveryPoint> points = estate.pointsOf(r.key());
          return RunTimes.of(
              points.subList(Math.max(0, points.size() - USUAL_OF), points.size()).stream()
                  .map(RecoveryPoint::runTime)
                  .filter(Objects::nonNull)
                  .toList());
        })
        .filter(Objects::nonNull)
        .max(Comparator.comparing(RunTimes::median))
        .orElse(null);
  }

  private static String schedule(Duration gap, RunTimes usual) {
    if (gap == null) {
      return "no schedule is stated: it promises no next point";
    } else if (usual == null) {
      return "at best a point every " + Wording.duration(gap)
          + "; how long its runs take is not known yet";
    }
    return "at best a loss of " + Wording.duration(gap.plus(usual.median())) + ": "
        + Wording.duration(gap) + " between starts at the longest and a usual run of "
        + Wording.duration(usual.median()) + " (1 in 20 takes " + Wording.duration(usual.p95())
        + ")";
  }

  private static String longTail(Policy policy, List<Resource> scope, Estate estate) {
    List<Instant> most = longest(scope, estate);
    // Only the long tail: days that are kept whole need a point each in any case.
    Retention tail = new Retention(
        null,
        null,
        policy.retention().weekly(),
        policy.retention().monthly(),
        policy.retention().yearly());
    return "its long tail needs " + tail.longTailFulls()
        + " separate fulls where storage shares no blocks"
        + served(policy, estate, most, tail);
  }

  private static List<Instant> longest(List<Resource> scope, Estate estate) {
    return scope.stream()
        .map(r -> estate.pointsOf(r.key()).stream().map(RecoveryPoint::dataTime).toList())
        .max(Comparator.comparing(List::size))
        .orElse(List.of());
  }

  private static String served(Policy policy, Estate estate, List<Instant> most, Retention tail) {
    return (most.isEmpty()
        ? ""
        : "; of the points there are, "
            + Retention.pointsNeeded(
                tail.slots(
                    estate.asAt(),
                    policy.zone(),
                    most.stream().mapToLong(Instant::toEpochMilli).sorted().toArray()),
                most)
            + " serve every slot that can be served");
  }

  /** What a policy means for a resource that comes into its scope: the first point, by when. */
  public static String firstPoint(Policy policy, Resource resource, Estate estate) {
    if (policy.schedule() == null) {
      return resource.name() + ": " + policy.name()
          + " states no schedule, so no next point is promised";
    }
    Instant asAt = estate.asAt();
    RunTimes usual = slowest(scope(policy, estate), estate);
    return policy
        .schedule()
        .recurrence()
        .nextAfter(asAt)
        .map(start -> {
          Instant done = usual == null ? start : start.plus(usual.median());
          StringBuilder copies = new StringBuilder();
          policy
              .copyTo()
              .forEach(t -> copies
                  .append(", its copy on ")
                  .append(estate.storeName(t.store()))
                  .append(" by ")
                  .append(Wording.time(done.plus(t.deadline()), asAt)));
          return resource.name() + ": the first point by " + Wording.time(done, asAt)
              + (usual == null
                  ? " and its run time"
                  : " (start " + Wording.time(start, asAt) + " and a usual run of "
                      + Wording.duration(usual.median()) + ")")
              + copies;
        })
        .orElse(resource.name() + ": the schedule of " + policy.name() + " starts no more");
  }
}
