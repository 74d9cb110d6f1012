package hardproof.core.insights;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.FactKinds;
import hardproof.core.feeds.Field;
import hardproof.core.points.Consistency;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.WorkloadResult;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * What a feed never tells, and what can't be judged of all that it tells of.
 *
 * @param feed its key
 * @param told which kinds of rows it told of, in the order of the bundle
 * @param lacks what none of its rows has
 * @param unjudged criteria that come to not enough data for every resource it tells of, where they are asked; none where the
 *     feed is overdue, as then its silence is why
 */
public record Untold(
    String feed, List<String> told, List<Lack> lacks, List<CriterionCode> unjudged) {
  /** So many of the newest points of a resource speak for what is told of them now. */
  private static final int NEWEST = 5;

  /** Fields that no row of a kind has. */
  public record Lack(String kind, List<String> fields) {}

  public Untold {
    told = List.copyOf(told);
    lacks = List.copyOf(lacks);
    unjudged = List.copyOf(unjudged);
  }

  /** Of every feed, by its key. */
  public static List<Untold> of(Estate estate, Evaluation evaluation) {
    Map<String, Told> feeds = new TreeMap<>();
    estate.facts().feeds().stream().map(Feed::key).forEach(f -> feeds.put(f, new Told()));
    Map<String, String> newest = new HashMap<>();
    for (Resource resource : estate.facts().resources()) {
      note(feeds, resource.feed(), FactKinds.RESOURCES, "resources", resource);
      PointSet set = estate.pointSet(resource.key());
      for (int row = Math.max(0, set.size() - NEWEST); row < set.size(); row++) {
        note(feeds, set.feed(row), FactKinds.POINTS, "points", set.point(row));
        set.copiesOf(row).forEach(c -> note(feeds, c.feed(), FactKinds.COPIES, "copies", c));
      }
      if (set.size() > 0) {
        newest.put(resource.key(), set.feed(set.size() - 1));
      }
    }
    for (WorkloadResult workload : evaluation.workloads()) {
      for (ResourceResult member : workload.members()) {
        for (String feed : speakers(member, newest)) {
          Told told = feeds.get(feed);
          if (told != null) {
            member.outcomes().forEach(told::judged);
          }
        }
      }
    }
    List<Untold> all = new ArrayList<>();
    feeds.forEach(
        (feed, told) -> all.add(told.untold(feed, estate.feed(feed).overdueAt(estate.asAt()))));
    return all;
  }

  private static <T> void note(
      Map<String, Told> feeds, @Nullable String feed, FactKind<T> kind, String name, T fact) {
    Told told = feed == null ? null : feeds.get(feed);
    if (told != null) {
      told.note(kind, name, fact);
    }
  }

  /**
   * Who tells of a resource: of itself, and of its newest point.
   *
   * @param newest who told of the newest point, by the key of the resource
   */
  private static Set<String> speakers(ResourceResult member, Map<String, String> newest) {
    Set<String> speakers = new LinkedHashSet<>();
    speakers.add(member.resource().feed());
    String ofPoint = newest.get(member.protector().key());
    if (ofPoint != null) {
      speakers.add(ofPoint);
    }
    return speakers;
  }

  /** What one feed told of so far. */
  private static final class Told {
    /** By kind what no row has had yet. */
    private final Map<String, List<Field<?, ?>>> open = new LinkedHashMap<>();

    private final Map<CriterionCode, Integer> asked = new EnumMap<>(CriterionCode.class);
    private final Map<CriterionCode, Integer> unknown = new EnumMap<>(CriterionCode.class);

    @SuppressWarnings("unchecked")
    <T> void note(FactKind<T> kind, String name, T fact) {
      List<Field<?, ?>> fields = open.computeIfAbsent(name, k -> asked(kind));
      fields.removeIf(f -> has(((Field<T, ?>) f).value().apply(fact)));
    }

    private static List<Field<?, ?>> asked(FactKind<?> kind) {
      List<Field<?, ?>> fields = new ArrayList<>();
      kind.fields().stream().filter(f -> !f.required() && !f.ours()).forEach(fields::add);
      return fields;
    }

    private static boolean has(@Nullable Object value) {
      return value != null
          && value != Consistency.UNKNOWN
          && !(value instanceof Collection<?> all && all.isEmpty())
          && !(value instanceof Map<?, ?> all && all.isEmpty());
    }

    void judged(Outcome outcome) {
      if (outcome.criterion() instanceof CriterionCode code
          && outcome.state() != OutcomeState.NOT_APPLICABLE) {
        asked.merge(code, 1, Integer::sum);
        if (outcome.state() == OutcomeState.NOT_ENOUGH_DATA) {
          unknown.merge(code, 1, Integer::sum);
        }
      }
    }

    Untold untold(String feed, boolean overdue) {
      List<Lack> lacks = new ArrayList<>();
      open.forEach((kind, fields) -> {
        if (!fields.isEmpty()) {
          lacks.add(new Lack(kind, fields.stream().map(Field::name).toList()));
        }
      });
      return new Untold(
          feed,
          List.copyOf(open.keySet()),
          lacks,
          overdue
              ? List.of()
              : unknown.keySet().stream()
                  .filter(c -> unknown.get(c).equals(asked.get(c)))
                  .toList());
    }
  }
}
