package hardproof.core.forecast;

import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Why nothing renews a proof in time. */
final class Reasons {
  private final Map<String, List<Offer>> offers;
  private final Capacity capacity;
  private final Instant asAt;
  private Map<String, List<Offer>> byResource;

  record Reason(Forecast.Why why, String sentence) {}

  Reasons(Map<String, List<Offer>> offers, Capacity capacity, Instant asAt) {
    this.offers = offers;
    this.capacity = capacity;
    this.asAt = asAt;
  }

  private List<Offer> of(Need need) {
    if (byResource == null) {
      byResource = offers.values().stream()
          .flatMap(List::stream)
          .collect(java.util.stream.Collectors.groupingBy(o -> o.resource().key()));
    }
    return byResource.getOrDefault(need.of.protector().key(), List.of());
  }

  Reason of(Need need, Instant from, boolean noRoom) {
    List<Offer> all = of(need);
    if (all.isEmpty()) {
      return new Reason(Forecast.Why.NO_PROGRAMME, Forecast.NO_PROGRAMME);
    }
    Optional<Offer> possible = all.stream().filter(o -> o.whyNot() == null).findFirst();
    if (possible.isEmpty()) {
      return new Reason(Forecast.Why.NO_POINT, all.get(0).whyNot());
    }
    if (all.stream().filter(o -> o.whyNot() == null).noneMatch(Offer::foretold)) {
      return new Reason(
          Forecast.Why.BY_CHANCE, possible.get().programme().name() + " " + Forecast.BY_CHANCE);
    }
    List<Offer> proving = all.stream().filter(o -> o.proves(need.demanded)).toList();
    if (proving.isEmpty()) {
      Offer best = all.stream()
          .filter(o -> o.whyNot() == null && o.foretold())
          .max(Comparator.comparing(Offer::reaches))
          .orElseThrow();
      return new Reason(
          Forecast.Why.TOO_WEAK,
          best.programme().name() + " drills it by " + best.method().words() + ", which shows "
              + best.reaches().code() + "; " + need.demanded.code() + " is demanded");
    }
    return ofTime(proving, from, noRoom);
  }

  private Reason ofTime(List<Offer> proving, Instant from, boolean noRoom) {
    Offer shortest = proving.stream().min(Comparator.comparing(Offer::takes)).orElseThrow();
    Duration longest = Renewals.night(capacity, shortest.programme(), from).length();
    boolean hours = capacity.hours() != null || shortest.programme().timing().hours() != null;
    if (hours && shortest.takes().compareTo(longest) > 0) {
      return new Reason(
          Forecast.Why.NIGHT_TOO_SHORT,
          "a drill of it takes " + Wording.duration(shortest.takes()) + ", and a night has "
              + Wording.duration(longest));
    }
    if (noRoom || capacity.atOnce() == 0) {
      return new Reason(
          Forecast.Why.CAPACITY,
          capacity.atOnce() == 0
              ? "programmes may start no drills at all"
              : "the nights before have no room for its drill of "
                  + Wording.duration(shortest.takes()));
    }
    return new Reason(Forecast.Why.TOO_SELDOM, seldom(proving, from));
  }

  private String seldom(List<Offer> proving, Instant from) {
    ProgrammeTerms programme = proving.get(0).programme();
    if (programme.asNeeded()) {
      return programme.name() + " drills it in the next night";
    }
    return programme
        .timing()
        .rule()
        .nextAfter(from)
        .map(next -> programme.name() + " drills it next on " + Wording.time(next, asAt))
        .orElse(programme.name() + " drills it no more");
  }
}
