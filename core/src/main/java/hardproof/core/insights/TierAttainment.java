package hardproof.core.insights;

import hardproof.core.criteria.Subject;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * How the RPO was kept in a tier.
 *
 * @param mean mean of its resources' shares, 0 to 1
 * @param worst the smallest share, of {@code worstName}
 * @param kept resources that kept it all the time
 * @param course mean share in each twelfth of the period, the first first; null where nothing was
 *     counted
 */
public record TierAttainment(
    int tier,
    int resources,
    double mean,
    double worst,
    String worstName,
    int kept,
    List<@Nullable Double> course) {
  /** Equal parts of the period that attainment is also given for. */
  private static final int PARTS = 12;

  /**
   * @param course share in each part of the period; NaN where nothing was counted
   */
  private record Share(String name, double share, double[] course) {}

  /** By tier, 1 first; resources without counted time are left out. */
  static List<TierAttainment> of(List<Subject> subjects, Period period) {
    Map<Integer, List<Share>> shares = new TreeMap<>();
    for (Subject s : subjects) {
      s.curve()
          .over(
              period.from().toEpochMilli(),
              s.horizon().toEpochMilli(),
              s.demand().rpo().toMillis())
          .attainment()
          .ifPresent(share -> shares
              .computeIfAbsent(tier(s), k -> new ArrayList<>())
              .add(new Share(s.resource().name(), share, course(s, period))));
    }
    return shares.entrySet().stream().map(e -> of(e.getKey(), e.getValue())).toList();
  }

  private static int tier(Subject s) {
    return s.workload() == null
        ? hardproof.core.estate.Workload.STRICTEST
        : s.workload().heldTo();
  }

  private static TierAttainment of(int tier, List<Share> all) {
    Share worst = all.stream()
        .min(Comparator.comparingDouble(Share::share).thenComparing(Share::name))
        .orElseThrow();
    return new TierAttainment(
        tier,
        all.size(),
        all.stream().mapToDouble(Share::share).average().orElseThrow(),
        worst.share(),
        worst.name(),
        (int) all.stream().filter(s -> s.share() >= 1).count(),
        meanCourse(all));
  }

  private static double[] course(Subject s, Period period) {
    double[] course = new double[PARTS];
    long begin = period.from().toEpochMilli();
    long length = period.to().toEpochMilli() - begin;
    long told = s.horizon().toEpochMilli();
    for (int i = 0; i < PARTS; i++) {
      course[i] = s.curve()
          .over(
              begin + length * i / PARTS,
              Math.min(told, begin + length * (i + 1) / PARTS),
              s.demand().rpo().toMillis())
          .attainment()
          .orElse(Double.NaN);
    }
    return course;
  }

  private static List<@Nullable Double> meanCourse(List<Share> all) {
    return IntStream.range(0, PARTS)
        .mapToObj(i -> all.stream()
            .mapToDouble(s -> s.course()[i])
            .filter(share -> !Double.isNaN(share))
            .average())
        .map(mean -> mean.isPresent() ? (Double) mean.getAsDouble() : null)
        .collect(Collectors.toList());
  }
}
