package hardproof.core.facts;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.drills.DrillFact;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Chain;
import hardproof.core.points.Consistency;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.points.UsableSpan;
import hardproof.core.wording.Wording;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;

/**
 * When each point of a resource can be restored, and why not. A point is usable when it is
 * complete, consistent enough, its chain is whole back to a full, and every point of the chain has
 * a copy that is present and not known to be bad. It begins at the available time; what is found
 * to be bad ends it from the moment that was known, not before.
 */
public final class Usability {
  private final Estate estate;
  private final PointSet set;
  private final Consistency demanded;
  private final List<DrillFact> drills;
  private final boolean anyFailed;
  private final Map<String, Link> links = new HashMap<>();
  private final List<Judged> judged;

  /** What one point is worth by itself, without its chain. */
  private record Own(long from, long until, String whyNot) {}

  /**
   * What a point is worth with its chain.
   *
   * @param culprit the point of the chain that {@code whyNot} is about
   * @param full where the chain ends; null when it is broken
   */
  private record Link(
      long from,
      long until,
      String whyNot,
      String culprit,
      int length,
      RecoveryPoint full,
      String breakSentence) {}

  /**
   * A point with the time it is usable.
   *
   * @param chainLength number of points in its chain as far as it could be followed
   * @param full the full it hangs from, itself when it stands alone; null when the chain is broken
   * @param breakSentence why the chain is broken; null when it is whole
   * @param whyNot why it never was, or stopped being, usable; null while it is
   */
  public record Judged(
      RecoveryPoint point,
      int chainLength,
      RecoveryPoint full,
      String breakSentence,
      UsableSpan span,
      String whyNot) {
    public boolean usableAt(Instant instant) {
      return span.contains(instant.toEpochMilli());
    }

    public boolean chainWhole() {
      return breakSentence == null;
    }
  }

  private Usability(Estate estate, String resource, Consistency demanded) {
    this.estate = estate;
    this.set = estate.pointSet(resource);
    this.demanded = demanded;
    this.drills = estate.drillsOf(resource);
    this.anyFailed = drills.stream().anyMatch(DrillFact::failed);
    List<Judged> all = new ArrayList<>(set.points().size());
    for (RecoveryPoint point : set.points()) {
      all.add(judge(point));
    }
    this.judged = List.copyOf(all);
  }

  public static Usability of(Estate estate, String resource, Consistency demanded) {
    return new Usability(estate, resource, demanded);
  }

  /** All points of the resource, oldest data first. */
  public List<Judged> points() {
    return judged;
  }

  /** The points that must be restored one after another to reach {@code point}. */
  public Chain chainOf(RecoveryPoint point) {
    return Chain.of(point, set::point);
  }

  private Judged judge(RecoveryPoint point) {
    Link link = link(point);
    UsableSpan span = link.breakSentence() == null
        ? new UsableSpan(point.dataTime().toEpochMilli(), link.from(), link.until())
        : new UsableSpan(point.dataTime().toEpochMilli(), 0, 0);
    String whyNot = link.breakSentence() != null
        ? link.breakSentence()
        : link.whyNot() == null || link.culprit().equals(point.key())
            ? link.whyNot()
            : "it hangs from " + link.culprit() + ": " + link.whyNot();
    return new Judged(point, link.length(), link.full(), link.breakSentence(), span, whyNot);
  }

  /** Follows the chain down to what is known already, and comes back up; each point is seen once. */
  private Link link(RecoveryPoint point) {
    Link known = links.get(point.key());
    if (known != null) {
      return known;
    }
    if (point.basedOn() == null) {
      Link alone = foot(point);
      links.put(point.key(), alone);
      return alone;
    }
    Deque<RecoveryPoint> way = new ArrayDeque<>();
    Set<String> seen = new HashSet<>();
    RecoveryPoint at = point;
    Link below = null;
    while (below == null) {
      if (!seen.add(at.key())) {
        below = broken(0, "the chain goes in a circle at " + at.key());
        break;
      }
      way.push(at);
      if (at.basedOn() == null) {
        way.pop();
        below = foot(at);
        links.put(at.key(), below);
        break;
      }
      Link there = links.get(at.basedOn());
      if (there != null) {
        below = there;
        break;
      }
      RecoveryPoint base = set.point(at.basedOn());
      if (base == null) {
        below = broken(0, at.key() + " is based on " + at.basedOn() + ", which is missing");
        break;
      }
      at = base;
    }
    while (!way.isEmpty()) {
      RecoveryPoint next = way.pop();
      below = onTop(below, next);
      links.put(next.key(), below);
    }
    return below;
  }

  private static Link broken(int length, String sentence) {
    return new Link(0, 0, null, null, length, null, sentence);
  }

  private Link foot(RecoveryPoint point) {
    if (!point.form().standsAlone()) {
      return broken(
          1,
          point.key() + " is " + point.form().code() + " and names no point that it is based on");
    }
    Own own = own(point);
    return new Link(own.from(), own.until(), own.whyNot(), point.key(), 1, point, null);
  }

  private Link onTop(Link below, RecoveryPoint point) {
    if (below.breakSentence() != null) {
      return broken(below.length() + 1, below.breakSentence());
    }
    Own own = own(point);
    boolean mine = own.whyNot() != null && (below.whyNot() == null || own.until() < below.until());
    return new Link(
        Math.max(below.from(), own.from()),
        Math.min(below.until(), own.until()),
        mine ? own.whyNot() : below.whyNot(),
        mine ? point.key() : below.culprit(),
        below.length() + 1,
        below.full(),
        null);
  }

  private Own own(RecoveryPoint point) {
    if (point.available() == null) {
      return new Own(0, 0, "it is not available yet");
    }
    if (point.outcome() != PointOutcome.COMPLETE) {
      return new Own(0, 0, "its outcome is " + point.outcome().code());
    }
    if (point.consistency().compareTo(demanded) < 0) {
      return new Own(
          0,
          0,
          "its consistency is " + point.consistency().code() + ", " + demanded.code()
              + " is demanded");
    }
    long until = Long.MIN_VALUE;
    String whyNot = "no copy of it is known";
    for (Copy copy : set.copiesOf(point)) {
      Own end = end(copy);
      if (end.until() > until) {
        until = end.until();
        whyNot = end.whyNot();
      }
    }
    if (until == Long.MIN_VALUE) {
      return new Own(0, 0, whyNot);
    }
    DrillFact bad = blame(point.key(), null);
    if (bad != null && bad.ended().toEpochMilli() < until) {
      until = bad.ended().toEpochMilli();
      whyNot = "the drill of " + Wording.time(bad.ended(), estate.asAt()) + " failed on it";
    }
    return new Own(point.available().toEpochMilli(), until, whyNot);
  }

  private static final Own GOOD = new Own(0, UsableSpan.OPEN, null);

  private Own end(Copy copy) {
    DrillFact bad = blame(copy.point(), copy.store());
    if (bad != null) {
      return new Own(
          0,
          bad.ended().toEpochMilli(),
          "the copy on " + estate.storeName(copy.store()) + " failed the drill of "
              + Wording.time(bad.ended(), estate.asAt()));
    }
    if (Boolean.FALSE.equals(copy.lastReadPassed())) {
      Instant known = copy.lastRead() == null ? copy.recordedAt() : copy.lastRead();
      return new Own(
          0,
          known.toEpochMilli(),
          "the read-back of the copy on " + estate.storeName(copy.store()) + " failed");
    }
    if (copy.state() == CopyState.PRESENT) {
      return GOOD;
    }
    boolean neverThere = copy.state() == CopyState.MISSING && copy.finished() == null;
    Instant gone = copy.recordedAt();
    if (copy.state() == CopyState.DELETED
        && copy.expires() != null
        && copy.expires().isBefore(gone)) {
      gone = copy.expires();
    }
    return new Own(
        0,
        neverThere ? 0 : gone.toEpochMilli(),
        "the copy on " + estate.storeName(copy.store()) + " is " + copy.state().code());
  }

  /**
   * The first drill that showed the point ({@code store} null) or its copy on a store to be bad,
   * unless the same was read whole again later.
   */
  private DrillFact blame(String point, String store) {
    if (!anyFailed) {
      return null;
    }
    DrillFact first = null;
    for (DrillFact drill : drills) {
      boolean same = drill.failed()
          && point.equals(drill.blamedPoint())
          && Objects.equals(store, drill.blamedStore());
      if (same && first == null) {
        first = drill;
      } else if (first != null && clears(drill, point, store, first)) {
        first = null;
      }
    }
    return first;
  }

  private static boolean clears(DrillFact drill, String point, String store, DrillFact failure) {
    return drill.passed()
        && point.equals(drill.point())
        && (store == null || store.equals(drill.store()))
        && drill.rung().atLeast(store == null ? failure.reaches() : Rung.INTACT);
  }

  /** Whether a copy is present, finished, and not known to be bad, at the as-at instant. */
  public boolean readable(Copy copy) {
    return end(copy).until() > estate.asAt().toEpochMilli()
        && (copy.finished() == null || !copy.finished().isAfter(estate.asAt()));
  }

  /** Whether a copy is damaged or failed to be read: the last figure of the copy rule counts it. */
  public boolean inError(Copy copy) {
    return copy.state() == CopyState.DAMAGED
        || Boolean.FALSE.equals(copy.lastReadPassed())
        || blame(copy.point(), copy.store()) != null
        || blame(copy.point(), null) != null;
  }
}
