package hardproof.server.survival;

import hardproof.core.estate.Feed;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.losses.Loss;
import hardproof.core.wording.WrongValue;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A loss by the names of its parts, all together; what is left out is not lost.
 *
 * @param site sites, as stores name them
 * @param region as stores name them
 * @param store keys of stores
 * @param domain failure domains, as stores name them
 * @param holder people, and places of keys that are neither site nor store, as resources name them
 * @param feed feeds by which nothing is to be trusted that came: later than {@code taintedAfter}, or at all
 * @param intruder whether all is lost that an administrator could delete
 * @param taintedAfter an instant after which no data is to be trusted
 */
public record LossDraft(
    @Nullable List<String> site,
    @Nullable List<String> region,
    @Nullable List<String> store,
    @Nullable List<String> domain,
    @Nullable List<String> holder,
    @Nullable List<String> feed,
    @Nullable Boolean intruder,
    @Nullable String taintedAfter) {
  private static final Instant LATEST = Instant.parse("9999-12-31T00:00:00Z");
  private static final String STORES = "no store names the %s '%s'; Integrity lists the stores, and"
      + " stores.csv says where each is";
  private static final String HOLDERS =
      "no resource names the %s '%s'; resources.csv says in key_places and restorers who and what"
          + " there is";
  private static final String FEEDS = "the %s '%s' is not known; Feeds lists them";

  /** As it is asked for. */
  static LossDraft of(Loss loss) {
    return new LossDraft(
        sorted(loss.sites()),
        sorted(loss.regions()),
        sorted(loss.stores()),
        sorted(loss.domains()),
        sorted(loss.holders()),
        sorted(loss.feeds()),
        loss.intruder(),
        loss.taintedAfter() == null ? null : loss.taintedAfter().toString());
  }

  private static List<String> sorted(Set<String> names) {
    return names.stream().sorted().toList();
  }

  /**
   * @throws WrongValue when it names what the facts of the estate do not
   */
  public Loss loss(Estate estate) {
    return new Loss(
        known("site", site, of(estate, Store::site), STORES),
        known("region", region, of(estate, Store::region), STORES),
        known("store", store, of(estate, Store::key), STORES),
        known("failure domain", domain, of(estate, Store::effectiveFailureDomain), STORES),
        known(
            "holder",
            holder,
            estate.facts().resources().stream()
                .map(Resource::restoring)
                .flatMap(r -> Stream.concat(r.keyPlaces().stream(), r.restorers().stream())),
            HOLDERS),
        known("feed", feed, estate.facts().feeds().stream().map(Feed::key), FEEDS),
        Boolean.TRUE.equals(intruder),
        tainted());
  }

  private static Stream<String> of(Estate estate, Function<Store, String> part) {
    return estate.facts().stores().stream().map(s -> String.valueOf(part.apply(s)));
  }

  private static Set<String> known(
      String what, @Nullable List<String> named, Stream<String> all, String sentence) {
    if (named == null || named.isEmpty()) {
      return Set.of();
    }
    Set<String> there = all.collect(Collectors.toSet());
    for (String one : named) {
      if (!there.contains(one)) {
        throw new WrongValue(sentence.formatted(what, one));
      }
    }
    return new HashSet<>(named);
  }

  private @Nullable Instant tainted() {
    if (taintedAfter == null || taintedAfter.isBlank()) {
      return null;
    }
    Instant after = null;
    try {
      after = Instant.parse(taintedAfter);
    } catch (DateTimeException e) {
      // Said below.
    }
    if (after == null || after.isBefore(Instant.EPOCH) || after.isAfter(LATEST)) {
      throw new WrongValue("'" + taintedAfter
          + "' is no instant after which data is tainted; give one like 2026-11-26T16:07:00Z");
    }
    return after;
  }
}
