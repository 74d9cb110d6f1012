package hardproof.core.order;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.PriorityQueue;
import org.jspecify.annotations.Nullable;

/**
 * When each step begins and ends where only so many can go on at once, and those that read from one store share what it
 * reads (list scheduling; R. L. Graham, 1969). Of those that can begin the one of the lowest rank does, then the one with the most still
 * behind it, then the one that was named first. Steps from one store that ask for more than it gives are all slowed
 * down alike.
 */
public final class RecoverySchedule {
  /**
   * What bounds it.
   *
   * @param atOnce steps that can go on at once, at least one
   * @param rates bytes a second that a store gives to all together; one that is not named bounds nothing
   */
  public record Limits(int atOnce, Map<String, Double> rates) {
    /** Nothing but needs. */
    public static final Limits NONE = new Limits(Integer.MAX_VALUE, Map.of());

    public Limits {
      rates = Map.copyOf(rates);
      if (atOnce < 1 || rates.values().stream().anyMatch(r -> !(r > 0))) {
        throw new IllegalArgumentException("at least one at once, and a rate above nothing");
      }
    }
  }

  /**
   * A step in time.
   *
   * @param place of the step
   * @param begin in milliseconds from the begin of all, as {@code end}
   * @param after the place of the step whose end let it begin; −1 where it began with all
   * @param room whether it waited for room rather than for what it needs
   */
  public record Bar(int place, long begin, long end, int after, boolean room) {}

  private final RecoverySteps steps;
  private final List<Bar> bars;
  private final @Nullable Bar[] byPlace;

  private RecoverySchedule(RecoverySteps steps, List<Bar> bars) {
    this.steps = steps;
    this.bars = List.copyOf(bars);
    this.byPlace = new Bar[steps.size()];
    bars.forEach(b -> byPlace[b.place()] = b);
  }

  public static RecoverySchedule of(RecoverySteps steps, Limits limits) {
    return new RecoverySchedule(steps, new Run(steps, limits).bars());
  }

  /** In the order in which they begin; without those that can never begin. */
  public List<Bar> bars() {
    return bars;
  }

  /** Null for a step that can never begin. */
  public @Nullable Bar bar(int place) {
    return byPlace[place];
  }

  /** When all is back, in milliseconds. */
  public long total() {
    return bars.stream().mapToLong(Bar::end).max().orElse(0);
  }

  /** Places of the steps that set the time, first to last: each began when the one before it ended. */
  public List<Integer> path() {
    List<Integer> path = new ArrayList<>();
    Bar at = bars.stream()
        .max(Comparator.comparingLong(Bar::end)
            .thenComparing(b -> b.end() - b.begin())
            .thenComparing(b -> -b.place()))
        .orElse(null);
    while (at != null) {
      path.add(at.place());
      at = at.after() < 0 ? null : byPlace[at.after()];
    }
    Collections.reverse(path);
    return path;
  }

  /** What ends within a millionth of a millisecond ends at once: as close as arithmetic comes. */
  private static final double AT_ONCE = 1e-6;

  /** Steps that read from one store; their common speed is one or less. */
  private static final class Shared {
    private final double most;
    private final PriorityQueue<Going> going =
        new PriorityQueue<>(Comparator.comparingDouble(Going::done).thenComparing(Going::place));
    private double asked;

    /** How far a step would be that had been going on alone since the begin. */
    private double progress;

    Shared(double most) {
      this.most = most;
    }

    private double speed() {
      return asked > most ? most / asked : 1;
    }

    void forward(double millis) {
      progress += millis * speed();
    }

    /**
     * @param surely whether its next one is done, however large the numbers are of which it is the difference
     */
    void takeDone(RecoverySteps steps, boolean surely, List<Integer> done) {
      double speed = speed();
      boolean first = surely;
      while (!going.isEmpty() && (first || (going.peek().done() - progress) / speed <= AT_ONCE)) {
        first = false;
        int place = going.poll().place();
        asked -= steps.step(place).rate();
        done.add(place);
      }
      if (going.isEmpty()) {
        // What rounding left over of many additions goes with the last.
        asked = 0;
      }
    }

    /** In how many milliseconds the next one is done. */
    double next() {
      return Math.max(0, going.peek().done() - progress) / speed();
    }
  }

  /**
   * @param done at which progress of its store it is done
   */
  private record Going(int place, double done) {}

  private static final class Run {
    private final RecoverySteps steps;
    private final Limits limits;
    private final int[] open;
    private final double[] begin;
    private final double[] end;
    private final int[] after;
    private final boolean[] room;
    private final List<Integer> begun = new ArrayList<>();
    private final Map<String, Shared> stores = new HashMap<>();
    private final PriorityQueue<Integer> ready;
    private int goingOn;
    private double now;

    Run(RecoverySteps steps, Limits limits) {
      this.steps = steps;
      this.limits = limits;
      this.open = new int[steps.size()];
      this.begin = new double[steps.size()];
      this.end = new double[steps.size()];
      this.after = new int[steps.size()];
      this.room = new boolean[steps.size()];
      CriticalPath path = CriticalPath.of(steps);
      ready = new PriorityQueue<>(
          Comparator.<Integer>comparingInt(p -> steps.step(p).rank())
              .thenComparing(p -> -path.tail(p))
              .thenComparing(p -> p));
    }

    List<Bar> bars() {
      for (int place = 0; place < open.length; place++) {
        open[place] = steps.needs(place).length;
        after[place] = -1;
      }
      for (int place = 0; place < open.length; place++) {
        if (steps.needs(place).length == 0 && steps.step(place).possible() && isUpAtOnce(place)) {
          ended(place);
        }
      }
      startAll(-1);
      while (goingOn > 0) {
        step();
      }
      return begun.stream()
          .map(p -> new Bar(p, Math.round(begin[p]), Math.round(end[p]), after[p], room[p]))
          .toList();
    }

    /** Goes on to when the next ones are done: all that are done at once end before anything begins. */
    private void step() {
      double in = Double.POSITIVE_INFINITY;
      Shared soonest = null;
      for (Shared store : stores.values()) {
        if (!store.going.isEmpty() && (soonest == null || store.next() < in)) {
          in = store.next();
          soonest = store;
        }
      }
      now += in;
      List<Integer> done = new ArrayList<>();
      for (Shared store : stores.values()) {
        if (!store.going.isEmpty()) {
          store.forward(in);
          store.takeDone(steps, store == soonest, done);
        }
      }
      Collections.sort(done);
      goingOn -= done.size();
      done.forEach(this::ended);
      startAll(done.get(0));
    }

    /** What takes no time is up at once, takes no room, and lets begin what waits for it. */
    private void ended(int place) {
      end[place] = now;
      Deque<Integer> ended = new ArrayDeque<>(List.of(place));
      while (!ended.isEmpty()) {
        int one = ended.poll();
        for (int waiting : steps.neededBy(one)) {
          after[waiting] = one;
          if (--open[waiting] == 0 && steps.step(waiting).possible() && isUpAtOnce(waiting)) {
            ended.add(waiting);
          }
        }
      }
    }

    private boolean isUpAtOnce(int place) {
      if (steps.step(place).millis() > 0) {
        ready.add(place);
        return false;
      }
      begin[place] = now;
      end[place] = now;
      begun.add(place);
      return true;
    }

    private void startAll(int freed) {
      while (!ready.isEmpty() && goingOn < limits.atOnce()) {
        int place = ready.poll();
        RecoverySteps.Step step = steps.step(place);
        if (freed >= 0 && waited(place)) {
          after[place] = freed;
          room[place] = true;
        }
        begin[place] = now;
        begun.add(place);
        goingOn++;
        String store = step.store();
        Double most = store == null ? null : limits.rates().get(store);
        Shared shared = stores.computeIfAbsent(
            most == null ? "" : "=" + store,
            k -> new Shared(most == null ? Double.POSITIVE_INFINITY : most));
        shared.asked += most == null ? 0 : step.rate();
        shared.going.add(new Going(place, shared.progress + step.millis()));
      }
    }

    /** Whether all that it needs was up before now. */
    private boolean waited(int place) {
      for (int need : steps.needs(place)) {
        if (end[need] >= now) {
          return false;
        }
      }
      return true;
    }
  }
}
