package hardproof.core.order;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * What has to be brought back, and what must be up before what. Steps are known by their place in the list that was
 * given; those on a circle of needs, those that nothing brings back, and those that wait for either can never begin.
 */
public final class RecoverySteps {
  /**
   * One thing that is brought back.
   *
   * @param millis how long it takes alone; 0 for what is up as soon as all that it needs is
   * @param store that it is read from; null where that bounds nothing
   * @param rate bytes a second that it reads when it is alone; 0 where that is not known
   * @param rank what comes first where not all can go on at once: the lower
   * @param possible whether anything brings it back; where nothing does, it and all that needs it never begin
   * @param needs keys of steps; those that are none of them are not waited for
   */
  public record Step(
      String key,
      long millis,
      @Nullable String store,
      double rate,
      int rank,
      boolean possible,
      List<String> needs) {
    public Step {
      needs = List.copyOf(needs);
    }

    Step ranked(int other) {
      return other == rank ? this : new Step(key, millis, store, rate, other, possible, needs);
    }
  }

  /** What the key of a workload begins with: no key of a resource has a line end. */
  private static final String ALL_OF = "\n";

  /** The key of the step that all members of a workload are up, which takes no time. */
  public static String allOf(String workload) {
    return ALL_OF + workload;
  }

  /** Whether a step brings something back, and is not that a workload is up. */
  static boolean isMember(String key) {
    return !key.startsWith(ALL_OF);
  }

  /** Up to so many are compared one by one. */
  private static final int FEW = 8;

  private final List<Step> steps;
  private final int[][] needs;
  private final int[][] neededBy;
  private final int[] order;
  private final Map<String, Integer> places = new HashMap<>();
  private final List<List<String>> circles;

  /**
   * @param steps each with a key of its own
   */
  public RecoverySteps(List<Step> steps) {
    this.steps = List.copyOf(steps);
    for (int i = 0; i < steps.size(); i++) {
      if (places.put(steps.get(i).key(), i) != null) {
        throw new IllegalArgumentException(steps.get(i).key() + " is there twice");
      }
    }
    needs = new int[steps.size()][];
    int[] counts = new int[needs.length];
    for (int i = 0; i < needs.length; i++) {
      needs[i] = places(steps.get(i).needs());
      for (int need : needs[i]) {
        counts[need]++;
      }
    }
    neededBy = new int[needs.length][];
    for (int i = needs.length - 1; i >= 0; i--) {
      neededBy[i] = new int[counts[i]];
    }
    for (int i = needs.length - 1; i >= 0; i--) {
      for (int need : needs[i]) {
        neededBy[need][--counts[need]] = i;
      }
    }
    order = inOrder();
    circles = order.length == steps.size() ? List.of() : new Circles().found();
  }

  /** Each once, without those that are none of the steps. */
  private int[] places(List<String> keys) {
    int[] found = new int[keys.size()];
    int count = 0;
    for (String key : keys) {
      Integer place = places.get(key);
      boolean again = place == null;
      for (int i = 0; i < count && !again && count <= FEW; i++) {
        again = found[i] == place;
      }
      if (!again) {
        found[count++] = place;
      }
    }
    return count > FEW
        ? Arrays.stream(found, 0, count).distinct().toArray()
        : Arrays.copyOf(found, count);
  }

  /** Each after all that it needs (A. B. Kahn, 1962); without those that can never begin. */
  private int[] inOrder() {
    int[] open = Arrays.stream(needs).mapToInt(n -> n.length).toArray();
    Deque<Integer> ready = new ArrayDeque<>();
    for (int i = 0; i < open.length; i++) {
      if (open[i] == 0 && steps.get(i).possible()) {
        ready.add(i);
      }
    }
    int[] sorted = new int[open.length];
    int count = 0;
    while (!ready.isEmpty()) {
      int next = ready.poll();
      sorted[count++] = next;
      for (int waiting : neededBy[next]) {
        if (--open[waiting] == 0 && steps.get(waiting).possible()) {
          ready.add(waiting);
        }
      }
    }
    return Arrays.copyOf(sorted, count);
  }

  /** The same, but that each comes as early as the earliest of those that need it. */
  public RecoverySteps rankedByNeed() {
    int[] rank = steps.stream().mapToInt(Step::rank).toArray();
    for (int i = order.length - 1; i >= 0; i--) {
      for (int need : needs[order[i]]) {
        rank[need] = Math.min(rank[need], rank[order[i]]);
      }
    }
    return new RecoverySteps(this, rank);
  }

  private RecoverySteps(RecoverySteps same, int[] rank) {
    steps = IntStream.range(0, rank.length)
        .mapToObj(i -> same.steps.get(i).ranked(rank[i]))
        .toList();
    needs = same.needs;
    neededBy = same.neededBy;
    order = same.order;
    circles = same.circles;
    places.putAll(same.places);
  }

  /**
   * What holds of a step and of all that it needs, at any depth; false for those that can never begin.
   *
   * @param own whether it holds of a step by itself, by its place
   */
  public boolean[] withAllItNeeds(boolean[] own) {
    boolean[] whole = new boolean[own.length];
    for (int place : order) {
      whole[place] = own[place];
      for (int need : needs[place]) {
        whole[place] &= whole[need];
      }
    }
    return whole;
  }

  public List<Step> all() {
    return steps;
  }

  public Step step(int place) {
    return steps.get(place);
  }

  /** The place of a step by its key, which is there. */
  public int place(String key) {
    return places.get(key);
  }

  /** Whether a key is that of a step: what is needed may be none. */
  public boolean has(String key) {
    return places.containsKey(key);
  }

  public int size() {
    return steps.size();
  }

  int[] needs(int place) {
    return needs[place];
  }

  int[] neededBy(int place) {
    return neededBy[place];
  }

  /** The places of all that can begin, each after what it needs. */
  int[] order() {
    return order;
  }

  /** Keys of the steps on each circle of needs, those of one circle sorted; empty where there is none. */
  public List<List<String>> circles() {
    return circles;
  }

  /** Keys of those that can never begin. */
  public List<String> never() {
    boolean[] can = new boolean[steps.size()];
    for (int place : order) {
      can[place] = true;
    }
    List<String> never = new ArrayList<>();
    for (int i = 0; i < can.length; i++) {
      if (!can[i]) {
        never.add(steps.get(i).key());
      }
    }
    return never;
  }

  /** Strongly connected parts of more than one step, or of one that needs itself (R. Tarjan, 1972; without recursion). */
  private final class Circles {
    private final int[] number = new int[steps.size()];
    private final int[] low = new int[steps.size()];
    private final boolean[] open = new boolean[steps.size()];
    private final int[] next = new int[steps.size()];
    private final Deque<Integer> path = new ArrayDeque<>();
    private final Deque<Integer> parts = new ArrayDeque<>();
    private final List<List<String>> found = new ArrayList<>();
    private int count;

    List<List<String>> found() {
      for (int i = 0; i < number.length; i++) {
        if (number[i] == 0) {
          visit(i);
        }
      }
      found.sort(Comparator.comparing(c -> c.get(0)));
      return List.copyOf(found);
    }

    private void visit(int begin) {
      enter(begin);
      while (!path.isEmpty()) {
        int at = path.peek();
        if (next[at] < needs[at].length) {
          int to = needs[at][next[at]++];
          if (number[to] == 0) {
            enter(to);
          } else if (open[to]) {
            low[at] = Math.min(low[at], number[to]);
          }
        } else {
          leave(path.pop());
        }
      }
    }

    private void enter(int place) {
      number[place] = low[place] = ++count;
      open[place] = true;
      path.push(place);
      parts.push(place);
    }

    private void leave(int place) {
      if (!path.isEmpty()) {
        low[path.peek()] = Math.min(low[path.peek()], low[place]);
      }
      if (low[place] < number[place]) {
        return;
      }
      List<String> part = new ArrayList<>();
      int one;
      do {
        one = parts.pop();
        open[one] = false;
        part.add(steps.get(one).key());
      } while (one != place);
      if (part.size() > 1 || Arrays.stream(needs[place]).anyMatch(n -> n == place)) {
        part.sort(Comparator.naturalOrder());
        found.add(part);
      }
    }
  }
}
