package hardproof.server.proof;

import hardproof.core.criteria.Standard;
import hardproof.core.facts.Estate;
import hardproof.core.proof.Evaluator;
import hardproof.core.wording.WrongValue;
import hardproof.server.facts.FactStore;
import hardproof.server.facts.Marks;
import hardproof.server.storage.Database;
import hardproof.server.storage.Soon;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Consumer;
import java.util.function.Function;

/** Evaluates what was known at an instant; an evaluation of unchanged facts is not made twice. */
public final class Evaluations {
  /** An evaluation of "now" serves this long while no fact changes: exposure grows by the minute. */
  static final Duration NOW_LASTS = Duration.ofSeconds(20);

  private static final int KEPT = 8;

  /** So many rows of points and copies take longer to work through than an answer may. */
  private static final long MUCH = 20_000;

  private static final Duration SOON = Duration.ofMillis(400);

  /** Where everything takes longer than this, an answer is given from before while it is worked out anew. */
  private static final Duration LONG = Duration.ofMillis(600);

  private static final Duration PATIENT = Duration.ofSeconds(20);

  /**
   * Where evaluating everything takes longer than this, only what a change touches is evaluated for a
   * while: for {@link #REST} times as long as everything took. The ages of the rest are then as old.
   */
  private static final Duration COSTLY = Duration.ofSeconds(2);

  private final Duration costly;

  private static final int REST = 20;

  private final Database database;
  private final FactStore facts;
  private final Clock clock;
  private final Function<Instant, Standard> standards;
  private final List<Consumer<Evaluated>> listeners = new CopyOnWriteArrayList<>();
  private Evaluated now;

  /** The last one that is worked out: whoever can't wait is answered from it, so it is never one that is not. */
  private volatile Evaluated last;

  /** The one that was the last when much came in; null when nothing has. */
  private volatile Evaluated behind;

  private final Soon refresher = new Soon("evaluation", 2);
  private Evaluated told;
  private Marks nowMarks;
  private Evaluated whole;
  private long nowAtChange = -1;
  private final Map<AsAt, Evaluated> past = new LinkedHashMap<>();
  private long pastAtChange = -1;

  /**
   * @param standards the standard that was in force at an instant
   */
  public Evaluations(
      Database database, FactStore facts, Function<Instant, Standard> standards, Clock clock) {
    this(database, facts, standards, clock, COSTLY);
  }

  /**
   * @param costly where evaluating everything takes longer than this, changes are evaluated by
   *     themselves
   */
  Evaluations(
      Database database,
      FactStore facts,
      Function<Instant, Standard> standards,
      Clock clock,
      Duration costly) {
    this.costly = costly;
    this.database = database;
    this.facts = facts;
    this.standards = standards;
    this.clock = clock;
  }

  /** Calls {@code listener} with each evaluation of "now" that {@link #keepFresh} makes. */
  public void onFresh(Consumer<Evaluated> listener) {
    listeners.add(listener);
  }

  /**
   * As at now, at most {@link #NOW_LASTS} old and never older than the newest fact. But whoever has to give
   * an answer ({@link Database#impatient}) gets what was known before where much has come in, while the
   * new is worked out; it says itself as at when it is.
   */
  public Evaluated now() {
    return Database.impatient() ? soon() : fresh();
  }

  private synchronized Evaluated fresh() {
    return newerThan(NOW_LASTS);
  }

  private Evaluated soon() {
    Evaluated before = last;
    if (before == null) {
      return workedOut(fresh());
    }
    if (facts.backlog() > MUCH) {
      behind = before;
    }
    // What came in since stays much until it is worked out, also when its rows are packed already.
    boolean much = behind == before || before.took().compareTo(LONG) > 0;
    return refresher.orBefore(() -> workedOut(fresh()), before, much ? SOON : PATIENT);
  }

  private Evaluated workedOut(Evaluated made) {
    made.evaluation();
    synchronized (this) {
      if (last == null || !made.estate().asAt().isBefore(last.estate().asAt())) {
        last = made;
      }
    }
    return made;
  }

  /** Evaluates in good time, so that nobody who looks has to wait for it. */
  public void keepFresh() {
    Evaluated fresh = refresher.calmly(this::untold);
    if (fresh != null) {
      listeners.forEach(l -> l.accept(fresh));
    }
  }

  /** What was evaluated anew; null when everybody has been told of it already. */
  private synchronized Evaluated untold() {
    Evaluated before = now;
    Evaluated fresh = newerThan(NOW_LASTS.dividedBy(2));
    workedOut(fresh);
    if (fresh == before && fresh == told) {
      return null;
    }
    told = fresh;
    return fresh;
  }

  private boolean wholeStillHolds(Instant instant) {
    if (whole == null || whole.took().compareTo(costly) < 0) {
      return false;
    }
    Duration age = Duration.between(whole.estate().asAt(), instant);
    return !age.isNegative() && age.compareTo(whole.took().multipliedBy(REST)) < 0;
  }

  private Evaluated newerThan(Duration most) {
    long changes = database.changes();
    // Whole milliseconds, as everything that is stored: a pack must carry the very instant.
    Instant instant = database.notBefore(clock.instant().truncatedTo(ChronoUnit.MILLIS));
    boolean fresh = now != null
        && nowAtChange == changes
        && !instant.isBefore(now.estate().asAt())
        && Duration.between(now.estate().asAt(), instant).compareTo(most) < 0;
    if (!fresh) {
      Marks marks = Marks.now(database);
      Set<String> touched =
          wholeStillHolds(instant) ? marks.touchedSince(nowMarks, database) : null;
      if (touched == null) {
        now = evaluate(instant, instant, changes);
        whole = now;
      } else if (nowAtChange != changes) {
        Estate estate = facts.estate(instant);
        now = new Evaluated(estate, Evaluator.update(now.evaluation(), estate, touched), changes);
      }
      nowMarks = marks;
      nowAtChange = changes;
    }
    return now;
  }

  /** By what was known at {@code asAt}; null means now. Otherwise as {@link #at(AsAt)}. */
  public Evaluated at(Instant asAt) {
    return at(AsAt.then(asAt));
  }

  /**
   * As at an instant by what was known when it says; where it says nothing, by what was known then.
   *
   * @throws WrongValue when one of the two is still to come, or can't be
   */
  public Evaluated at(AsAt when) {
    if (when.asAt() == null) {
      if (!when.knownThen() && !when.knownNow()) {
        throw new WrongValue(
            "by what was known when is asked of an instant that has been: say as at which");
      }
      return now();
    }
    return past(when);
  }

  /** Whole milliseconds, as everything that is stored: a pack must carry the very instant. */
  private Instant present() {
    return database.notBefore(clock.instant().truncatedTo(ChronoUnit.MILLIS));
  }

  /**
   * An instant that somebody asks about.
   *
   * @throws WrongValue when nothing can be known of it
   */
  public Instant been(Instant asAt) {
    return been(asAt, present());
  }

  private static Instant been(Instant asAt, Instant present) {
    if (asAt.isAfter(present)) {
      throw new WrongValue("as at " + asAt + " is still to come; choose an instant that has been");
    }
    if (asAt.isBefore(Instant.EPOCH)) {
      throw new WrongValue("as at an instant before 1970 nothing can be known");
    }
    return asAt;
  }

  private Evaluated past(AsAt when) {
    Instant present = present();
    Instant asAt = been(when.asAt(), present);
    Instant knownAt = when.knownThen() ? asAt : when.knownNow() ? present : when.knownInstant();
    if (knownAt.isAfter(present) || knownAt.isBefore(asAt)) {
      throw new WrongValue("what was known at " + knownAt + " can't tell of " + asAt
          + (knownAt.isBefore(asAt) ? ", which is later" : ": it is still to come")
          + "; choose an instant in between, then or now");
    }
    // What is known now stays the same until something else becomes known.
    AsAt key = new AsAt(asAt, when.knownNow() ? AsAt.NOW : knownAt.toString());
    long changes = database.changes();
    synchronized (past) {
      if (pastAtChange != changes) {
        past.clear();
        pastAtChange = changes;
      }
      if (past.size() >= KEPT && !past.containsKey(key)) {
        past.remove(past.keySet().iterator().next());
      }
      return past.computeIfAbsent(key, k -> evaluate(asAt, knownAt, changes));
    }
  }

  private Evaluated evaluate(Instant asAt, Instant knownAt, long changes) {
    return new Evaluated(facts.estate(asAt, knownAt), standards.apply(asAt), changes);
  }
}
