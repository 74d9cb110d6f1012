package hardproof.core.programmes;

import hardproof.core.schedule.HoursOfDay;
import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Which of the drills that wait begins next: what a person asked for first, then whatever's proof lapses first, as far
 * as the limits of the installation and of the programmes allow. The forecast asks it as the queue does. For one thread at a time.
 */
public final class Admission {
  /** The order in which drills that wait are looked at. */
  public static final Comparator<QueuedDrill> IN_TURN = Comparator.comparing(
          (QueuedDrill d) -> d.programme() != null)
      .thenComparing(QueuedDrill::neededBy, Comparator.nullsLast(Comparator.naturalOrder()))
      .thenComparing(QueuedDrill::queued)
      .thenComparing(QueuedDrill::id);

  private final Capacity capacity;
  private final Map<String, ProgrammeTerms> programmes;

  /** The last night that was looked for, by the hours; it is the same until it closes. */
  private final Map<Optional<HoursOfDay>, Looked> nights = new HashMap<>();

  private record Looked(Instant at, HoursOfDay.Open night) {
    boolean holds(Instant now) {
      return !now.isBefore(at) && now.isBefore(night.closes());
    }
  }

  public Admission(Capacity capacity, Map<String, ProgrammeTerms> programmes) {
    this.capacity = capacity;
    this.programmes = programmes;
  }

  /** What programmes have taken so far. */
  public interface Spent {
    /** Bytes of the drills that a programme has begun since an instant. */
    long bytesSince(String programme, Instant since);

    /** The cost of the drills that a programme has begun since an instant. */
    double costSince(String programme, Instant since);
  }

  /** The first of those that wait, in their turn, that nothing keeps from beginning now. */
  public Optional<QueuedDrill> next(
      Instant now, Collection<QueuedDrill> inTurn, Collection<QueuedDrill> underWay, Spent spent) {
    for (QueuedDrill drill : inTurn) {
      Held held = held(drill, now, underWay, spent);
      if (held == null) {
        return Optional.of(drill);
      }
      if (held == Held.AT_ONCE && drill.programme() != null) {
        return Optional.empty(); // No room for whatever comes after it either.
      }
    }
    return Optional.empty();
  }

  /** What keeps a drill from beginning; null when nothing does. */
  public @Nullable Held held(
      QueuedDrill drill, Instant now, Collection<QueuedDrill> underWay, Spent spent) {
    // Where programmes may start nothing, a person may still try something out.
    int atOnce = drill.programme() == null ? Math.max(1, capacity.atOnce()) : capacity.atOnce();
    if (underWay.size() >= atOnce) {
      return Held.AT_ONCE;
    }
    if (capacity.atOncePerStore() != null
        && underWay.stream().filter(d -> d.store().equals(drill.store())).count()
            >= capacity.atOncePerStore()) {
      return Held.AT_ONCE_PER_STORE;
    }
    if (capacity.sandboxBytes() != null && !roomFor(drill, underWay, capacity.sandboxBytes())) {
      return Held.SPACE;
    }
    return drill.programme() == null ? null : heldByProgramme(drill, now, underWay, spent);
  }

  private static boolean roomFor(
      QueuedDrill drill, Collection<QueuedDrill> underWay, long sandboxBytes) {
    long taken = underWay.stream().mapToLong(QueuedDrill::spaceBytes).sum();
    return drill.spaceBytes() <= sandboxBytes - taken;
  }

  private @Nullable Held heldByProgramme(
      QueuedDrill drill, Instant now, Collection<QueuedDrill> underWay, Spent spent) {
    ProgrammeTerms terms = programmes.get(drill.programme());
    HoursOfDay.Open night = night(now, terms == null ? null : terms.timing().hours());
    if (!night.holds(now)) {
      return Held.HOURS;
    }
    if (bounded(terms)
        && drill.takes() != null
        && now.plus(drill.takes()).isAfter(night.closes())) {
      return Held.NIGHT_TOO_SHORT;
    }
    return terms == null ? null : heldByLimits(drill, terms, now, underWay, spent);
  }

  private HoursOfDay.Open night(Instant now, @Nullable HoursOfDay own) {
    Optional<HoursOfDay> key = Optional.ofNullable(own);
    Looked last = nights.get(key);
    if (last == null || !last.holds(now)) {
      last = new Looked(now, capacity.night(now, own));
      nights.put(key, last);
    }
    return last.night();
  }

  /** Whether there are hours at all: where all day is open, midnight ends nothing. */
  private boolean bounded(@Nullable ProgrammeTerms terms) {
    return capacity.hours() != null || (terms != null && terms.timing().hours() != null);
  }

  private @Nullable Held heldByLimits(
      QueuedDrill drill,
      ProgrammeTerms terms,
      Instant now,
      Collection<QueuedDrill> underWay,
      Spent spent) {
    Limits limits = terms.limits();
    if (limits.atOnce() != null
        && underWay.stream().filter(d -> terms.key().equals(d.programme())).count()
            >= limits.atOnce()) {
      return Held.PROGRAMME_AT_ONCE;
    }
    if (limits.nightBytes() != null
        && spent.bytesSince(terms.key(), nightBegan(now)) + drill.readBytes()
            > limits.nightBytes()) {
      return Held.NIGHT_BYTES;
    }
    if (limits.monthCost() != null
        && spent.costSince(terms.key(), capacity.month(now)) + drill.cost() > limits.monthCost()) {
      return Held.MONTH_COST;
    }
    return null;
  }

  /** The last opening at or before {@code now}. */
  Instant nightBegan(Instant now) {
    HoursOfDay.Open night = night(now, null);
    if (!night.opens().isAfter(now)) {
      return night.opens();
    }
    HoursOfDay.Open before = capacity.night(now.minus(java.time.Duration.ofDays(1)));
    return before.opens().isAfter(now) ? now.minus(java.time.Duration.ofDays(1)) : before.opens();
  }
}
