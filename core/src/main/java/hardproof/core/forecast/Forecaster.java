package hardproof.core.forecast;

import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.ladder.Rung;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.Members;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.recovery.TimeEstimates;
import hardproof.core.schedule.HoursOfDay;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** Looks ahead from an evaluation, by what programmes say. Made once for each evaluation; safe for many threads. */
public final class Forecaster {
  /** So far ahead it looks. */
  public static final Duration AHEAD = Duration.ofDays(90);

  private final Estate estate;
  private final Evaluation evaluation;
  private final List<ProgrammeTerms> programmes;
  private final Map<String, List<Offer>> offers = new HashMap<>();

  /** Why a programme could not drill a resource when it tried last. */
  public interface Refused {
    /** The resource by its key; null where it could, or never tried. */
    @Nullable
    String why(ProgrammeTerms programme, String resource);
  }

  /** Where nothing was tried yet. */
  public Forecaster(
      Estate estate,
      Evaluation evaluation,
      List<ProgrammeTerms> programmes,
      Predicate<String> readable) {
    this(estate, evaluation, programmes, readable, (programme, resource) -> null);
  }

  /**
   * @param readable whether a store, by key, can be read from here
   * @param refused what can't be drilled takes no room, and renews nothing
   */
  public Forecaster(
      Estate estate,
      Evaluation evaluation,
      List<ProgrammeTerms> programmes,
      Predicate<String> readable,
      Refused refused) {
    this.estate = estate;
    this.evaluation = evaluation;
    this.programmes = List.copyOf(programmes);
    TimeEstimates estimates = new TimeEstimates(estate);
    estate.each(r -> offers(r, estimates, readable, refused)).stream()
        .flatMap(List::stream)
        .forEach(o ->
            offers.computeIfAbsent(o.programme().key(), k -> new ArrayList<>()).add(o));
  }

  private List<Offer> offers(
      Resource resource, TimeEstimates estimates, Predicate<String> readable, Refused refused) {
    return programmes.stream()
        .filter(p -> Members.has(p, estate, evaluation, resource))
        .map(p -> Offer.of(estate, estimates, p, resource, demanded(resource), readable)
            .refused(refused.why(p, resource.key())))
        .toList();
  }

  private Rung demanded(Resource resource) {
    ResourceResult result = evaluation.resource(resource.key());
    return result == null ? Rung.RESTORED : result.proof().demanded();
  }

  /** The coming nights. */
  public Forecast forecast(Capacity capacity, Duration ahead) {
    Instant from = evaluation.asAt();
    return new Simulation(
            programmes, offers, needs(), capacity, throughput(), from, from.plus(ahead))
        .run();
  }

  /** Bytes a second, of the stores that say so. */
  private Map<String, Long> throughput() {
    Map<String, Long> throughput = new HashMap<>();
    for (Store store : estate.facts().stores()) {
      if (store.throughput() != null && store.throughput() > 0) {
        throughput.put(store.key(), store.throughput());
      }
    }
    return throughput;
  }

  /**
   * What a programme that drills as needed drills in the night that is open at {@code now}.
   *
   * @param without keys of resources that can't be drilled
   */
  public Renewals.Tonight tonight(
      ProgrammeTerms programme, Capacity capacity, Instant now, Set<String> without) {
    HoursOfDay.Open night = Renewals.night(capacity, programme, now);
    List<Prospect> possible =
        Prospect.of(offers, needs(), new HashMap<>())
            .getOrDefault(programme.key(), List.of())
            .stream()
            .filter(s -> !without.contains(s.offer().resource().key()))
            .toList();
    return Renewals.choose(now, night, capacity, programme, possible);
  }

  /** By the resource whose drills prove them. */
  private Map<String, List<Need>> needs() {
    Map<String, List<Need>> needs = new HashMap<>();
    for (WorkloadResult workload : evaluation.workloads()) {
      for (ResourceResult member : workload.members()) {
        if (member.verdict() != Verdict.EXCLUDED) {
          needs
              .computeIfAbsent(member.protector().key(), k -> new ArrayList<>())
              .add(new Need(member));
        }
      }
    }
    return needs;
  }
}
