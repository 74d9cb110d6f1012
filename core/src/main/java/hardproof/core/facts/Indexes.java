package hardproof.core.facts;

import hardproof.core.drills.DrillFact;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Job;
import hardproof.core.estate.Resource;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/** Facts by what they are asked for. */
final class Indexes {
  private static final Comparator<DrillFact> BY_END =
      Comparator.comparing(DrillFact::ended).thenComparing(DrillFact::run);

  private static final Comparator<Job> BY_TIME = Comparator.comparing(
          (Job j) -> j.started() == null ? j.ended() : j.started())
      .thenComparing(Job::key);

  static <T> Map<String, T> index(List<T> items, Function<T, String> key) {
    Map<String, T> map = new LinkedHashMap<>();
    items.forEach(i -> map.put(key.apply(i), i));
    return map;
  }

  static <T> Map<String, List<T>> group(List<T> items, Function<T, String> key) {
    return items.stream().collect(Collectors.groupingBy(key, HashMap::new, Collectors.toList()));
  }

  static Map<String, List<Resource>> members(Facts facts) {
    return group(
        facts.resources().stream().filter(r -> r.workload() != null).toList(), Resource::workload);
  }

  static Map<String, List<Resource>> children(Facts facts) {
    return group(
        facts.resources().stream().filter(r -> r.parent() != null).toList(), Resource::parent);
  }

  static Map<String, List<Job>> jobs(Facts facts) {
    Map<String, List<Job>> jobs =
        group(facts.jobs().stream().filter(j -> j.resource() != null).toList(), Job::resource);
    jobs.values().forEach(l -> l.sort(BY_TIME));
    return jobs;
  }

  static Map<String, List<DrillFact>> drills(Facts facts) {
    Map<String, List<DrillFact>> drills = group(facts.drills(), DrillFact::resource);
    drills.values().forEach(l -> l.sort(BY_END));
    return drills;
  }

  static Layered<List<DrillFact>> alsoDrilled(
      Layered<List<DrillFact>> drills, List<DrillFact> more) {
    Map<String, List<DrillFact>> others = new HashMap<>();
    for (DrillFact drill : more) {
      List<DrillFact> own = others.computeIfAbsent(drill.resource(), r -> {
        List<DrillFact> known = drills.get(r);
        return known == null ? new ArrayList<>() : new ArrayList<>(known);
      });
      own.add(drill);
    }
    return drills.with(others);
  }

  static List<AcceptedException> valid(Facts facts, Instant asAt) {
    return facts.exceptions().stream().filter(e -> e.validAt(asAt)).toList();
  }

  private Indexes() {}
}
