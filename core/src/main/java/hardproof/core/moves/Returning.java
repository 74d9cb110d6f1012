package hardproof.core.moves;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.criteria.Standard;
import hardproof.core.criteria.Subject;
import hardproof.core.drills.Method;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.moves.Return.Step;
import hardproof.core.moves.ReturnStep.State;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.recovery.RestoreEstimate;
import hardproof.core.recovery.TimeEstimate;
import hardproof.core.recovery.TimeEstimates;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.IntPredicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Judges how far one resource is on its way back. */
final class Returning {
  private final Estate estate;
  private final TimeEstimates estimates;
  private final Move move;
  private final Subject subject;
  private final PointSet set;
  private final Set<String> homeStores;
  private final List<Step> steps = new ArrayList<>();
  private int carried = -1;

  private Returning(Estate estate, Standard standard, TimeEstimates estimates, Move move) {
    this.estate = estate;
    this.estimates = estimates;
    this.move = move;
    this.subject = new Subject(estate, standard, move.resource());
    this.set = subject.set();
    this.homeStores = estate.facts().stores().stream()
        .filter(s -> move.home().equals(s.site()))
        .map(Store::key)
        .collect(Collectors.toCollection(TreeSet::new));
  }

  static Return of(Estate estate, Standard standard, TimeEstimates estimates, Move move) {
    return new Returning(estate, standard, estimates, move).judge();
  }

  private Return judge() {
    protectedAway();
    copiedHome();
    back();
    chainBegun();
    copiesAsBefore();
    RecoveryPoint point = carried < 0 ? null : set.point(carried);
    String store = null;
    TimeEstimate time = null;
    for (String one : carried < 0 ? List.<String>of() : storesAtHome(carried)) {
      TimeEstimate from = estimate(point, one);
      if (store == null
          || from != null && (time == null || from.median().compareTo(time.median()) < 0)) {
        store = one;
        time = from;
      }
    }
    return new Return(move, steps, point, store, time);
  }

  private void protectedAway() {
    int newest = newest(this::madeAway);
    if (newest >= 0) {
      add(ReturnStep.PROTECTED_AWAY, State.DONE, "its newest point from there is of " + at(newest));
    } else if (move.back() == null) {
      add(
          ReturnStep.PROTECTED_AWAY,
          State.OPEN,
          "no usable point was made since it is at " + move.away() + ": what is new there lies"
              + " nowhere else");
    } else {
      add(
          ReturnStep.PROTECTED_AWAY,
          State.MISSED,
          "no usable point of its time at " + move.away() + " is known");
    }
  }

  private void copiedHome() {
    carried = newest(row -> madeAway(row) && !storesAtHome(row).isEmpty());
    if (carried >= 0) {
      String lost = move.back() == null
          ? "; going back by it now loses what is newer than "
              + Wording.duration(
                  Duration.ofMillis(estate.asAt().toEpochMilli() - set.dataTime(carried)))
          : "";
      add(
          ReturnStep.COPIED_HOME,
          State.DONE,
          "its point of " + at(carried) + " lies there on " + names(storesAtHome(carried)) + lost);
    } else if (move.back() != null) {
      add(
          ReturnStep.COPIED_HOME,
          State.MISSED,
          "it is back, and no point of its time at " + move.away()
              + " is known to have come with it: what was new there may be lost");
    } else if (newest(this::madeAway) < 0) {
      add(ReturnStep.COPIED_HOME, State.WAITS, "there is no point yet to copy");
    } else {
      add(
          ReturnStep.COPIED_HOME,
          State.OPEN,
          homeStores.isEmpty()
              ? "no store of the facts is at " + move.home()
                  + "; say in stores.csv what stands there"
              : "no point from there lies whole and readable on " + names(homeStores));
    }
  }

  private void back() {
    if (move.back() != null) {
      add(ReturnStep.BACK, State.DONE, "facts put it there since " + time(move.back()));
    } else {
      boolean can = steps.stream().allMatch(s -> s.state() == State.DONE);
      add(
          ReturnStep.BACK,
          can ? State.OPEN : State.WAITS,
          "facts put it at " + move.away() + " since " + time(move.left()));
    }
  }

  private void chainBegun() {
    int full = newest(row -> madeSince(row) && !set.hangs(row));
    add(
        ReturnStep.CHAIN_BEGUN,
        full >= 0 ? State.DONE : move.back() == null ? State.WAITS : State.OPEN,
        full >= 0
            ? "its point of " + at(full) + " hangs from no other"
            : "no point that hangs from nothing was made since it is back");
  }

  private void copiesAsBefore() {
    Set<String> before = storesBefore();
    if (before.isEmpty()) {
      add(
          ReturnStep.COPIES_AS_BEFORE,
          State.NOT_KNOWN,
          "no point of before is known any more, so neither is where its copies lay");
      return;
    }
    Set<String> missing = new TreeSet<>(before);
    missing.removeAll(storesOf(this::madeSince));
    add(
        ReturnStep.COPIES_AS_BEFORE,
        missing.isEmpty() ? State.DONE : move.back() == null ? State.WAITS : State.OPEN,
        missing.isEmpty()
            ? "points made since it is back lie on " + names(before)
            : "no point made since it is back lies on " + names(missing)
                + ", as those of before did");
  }

  private void add(ReturnStep step, State state, String sentence) {
    steps.add(new Step(step, state, sentence));
  }

  private boolean madeAway(int row) {
    return move.awayAt(set.dataTime(row)) && subject.usable(row);
  }

  private boolean madeSince(int row) {
    return move.back() != null
        && set.dataTime(row) >= move.back().toEpochMilli()
        && subject.usable(row);
  }

  private int newest(IntPredicate which) {
    for (int row = set.size() - 1; row >= 0; row--) {
      if (which.test(row)) {
        return row;
      }
    }
    return -1;
  }

  /**
   * Where copies of the points lay that were made in the period before it left, whatever has become of them: a short retention
   * may have taken those of one store by now.
   */
  private Set<String> storesBefore() {
    long left = move.left().toEpochMilli();
    long first = left - subject.period().toMillis();
    Set<String> stores = new TreeSet<>();
    for (int row = 0; row < set.size(); row++) {
      if (set.dataTime(row) >= first && set.dataTime(row) < left) {
        set.copiesOf(row).stream()
            .filter(c -> c.state() != CopyState.MISSING)
            .map(Copy::store)
            .forEach(stores::add);
      }
    }
    return stores;
  }

  /** Stores that have readable copies of points. */
  private Set<String> storesOf(IntPredicate which) {
    Set<String> stores = new TreeSet<>();
    for (int row = 0; row < set.size(); row++) {
      if (which.test(row)) {
        stores.addAll(readable(row));
      }
    }
    return stores;
  }

  /** Stores at home that have a point with its whole chain. */
  private Set<String> storesAtHome(int row) {
    Set<String> whole = new TreeSet<>(homeStores);
    for (int at = row; at >= 0; at = set.hangs(at) ? set.basedOn(at) : -1) {
      whole.retainAll(readable(at));
    }
    return whole;
  }

  private Set<String> readable(int row) {
    return set.copiesOf(row).stream()
        .filter(subject.usability()::readable)
        .map(Copy::store)
        .collect(Collectors.toCollection(TreeSet::new));
  }

  private @Nullable TimeEstimate estimate(RecoveryPoint point, String store) {
    long bytes = RestoreEstimate.whole(subject.protector(), RestoreEstimate.chainBytes(set, point));
    Method method =
        Method.restoring(subject.protector().kind(), subject.demand().rung());
    return estimates.of(subject.protector(), store, method, bytes).orElse(null);
  }

  private String names(Set<String> stores) {
    return Wording.list(stores.stream().map(estate::storeName).toList());
  }

  private String at(int row) {
    return time(Instant.ofEpochMilli(set.dataTime(row)));
  }

  private String time(Instant at) {
    return Wording.time(at, estate.asAt());
  }
}
