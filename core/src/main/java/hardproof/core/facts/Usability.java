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
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/**
 * When each point of a resource can be restored, and why not. A point is usable when it is
 * complete, consistent enough, its chain is whole back to a full, and every point of the chain has
 * a copy that is present and not known to be bad. It begins at the available time; what is found
 * to be bad ends it from the moment that was known, not before.
 */
public final class Usability {
  private final Estate estate;
  private final Consistency demanded;
  private final List<DrillFact> drills;
  private final Map<String, Own> own = new HashMap<>();
  private final List<Judged> judged = new ArrayList<>();

  /** What one point is worth by itself, without its chain. */
  private record Own(long from, long until, String whyNot) {}

  /**
   * A point with the time it is usable.
   *
   * @param whyNot why it never was, or stopped being, usable; null while it is
   */
  public record Judged(RecoveryPoint point, Chain chain, UsableSpan span, String whyNot) {
    public boolean usableAt(Instant instant) {
      return span.contains(instant.toEpochMilli());
    }
  }

  private Usability(Estate estate, String resource, Consistency demanded) {
    this.estate = estate;
    this.demanded = demanded;
    this.drills = estate.drillsOf(resource);
  }

  /** All points of a resource, oldest data first. */
  public static List<Judged> of(Estate estate, String resource, Consistency demanded) {
    Usability usability = new Usability(estate, resource, demanded);
    for (RecoveryPoint point : estate.pointsOf(resource)) {
      usability.judged.add(usability.judge(point));
    }
    return List.copyOf(usability.judged);
  }

  private Judged judge(RecoveryPoint point) {
    Chain chain = Chain.of(point, estate::point);
    if (!chain.whole()) {
      return never(point, chain, chain.breakSentence());
    }
    long from = Long.MIN_VALUE;
    long until = UsableSpan.OPEN;
    String whyNot = null;
    for (RecoveryPoint link : chain.points()) {
      Own mine = own.computeIfAbsent(link.key(), k -> own(link));
      boolean self = link.key().equals(point.key());
      if (mine.whyNot() != null && (whyNot == null || mine.until() < until)) {
        whyNot = self ? mine.whyNot() : "it hangs from " + link.key() + ": " + mine.whyNot();
      }
      from = Math.max(from, mine.from());
      until = Math.min(until, mine.until());
    }
    UsableSpan span = new UsableSpan(point.dataTime().toEpochMilli(), from, until);
    return new Judged(point, chain, span, whyNot);
  }

  private static Judged never(RecoveryPoint point, Chain chain, String why) {
    return new Judged(point, chain, new UsableSpan(point.dataTime().toEpochMilli(), 0, 0), why);
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
    for (Copy copy : estate.copiesOf(point.key())) {
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

  private Own end(Copy copy) {
    String store = estate.storeName(copy.store());
    DrillFact bad = blame(copy.point(), copy.store());
    if (bad != null) {
      return new Own(
          0,
          bad.ended().toEpochMilli(),
          "the copy on " + store + " failed the drill of "
              + Wording.time(bad.ended(), estate.asAt()));
    }
    if (Boolean.FALSE.equals(copy.lastReadPassed())) {
      Instant known = copy.lastRead() == null ? copy.recordedAt() : copy.lastRead();
      return new Own(0, known.toEpochMilli(), "the read-back of the copy on " + store + " failed");
    }
    if (copy.state() == CopyState.PRESENT) {
      return new Own(0, UsableSpan.OPEN, null);
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
        "the copy on " + store + " is " + copy.state().code());
  }

  /**
   * The first drill that showed the point ({@code store} null) or its copy on a store to be bad,
   * unless the same was read whole again later.
   */
  private DrillFact blame(String point, String store) {
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
  public static boolean readable(Estate estate, String resource, Copy copy) {
    Usability usability = new Usability(estate, resource, Consistency.UNKNOWN);
    return usability.end(copy).until() > estate.asAt().toEpochMilli()
        && (copy.finished() == null || !copy.finished().isAfter(estate.asAt()));
  }

  /** Whether a copy is damaged or failed to be read: the last figure of the copy rule counts it. */
  public static boolean inError(Estate estate, String resource, Copy copy) {
    Usability usability = new Usability(estate, resource, Consistency.UNKNOWN);
    return copy.state() == CopyState.DAMAGED
        || Boolean.FALSE.equals(copy.lastReadPassed())
        || usability.blame(copy.point(), copy.store()) != null
        || usability.blame(copy.point(), null) != null;
  }
}
