package hardproof.core.losses;

import hardproof.core.copies.Copy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * What is lost at once, beside production, which always is.
 *
 * @param sites of stores, as their facts name them
 * @param regions of stores
 * @param stores by their keys
 * @param domains failure domains, as their facts name them; a store that names none is its own, {@code store:KEY}
 * @param holders people, and places that are neither site nor store, with the keys that lie there and nowhere else
 * @param feeds what came by them is not to be trusted: later than {@code taintedAfter} where that is said
 * @param intruder whether every copy is gone that an administrator could delete: online, and not locked any more
 * @param taintedAfter everything with later data is not to be trusted; null where nothing is tainted but by feeds
 */
public record Loss(
    Set<String> sites,
    Set<String> regions,
    Set<String> stores,
    Set<String> domains,
    Set<String> holders,
    Set<String> feeds,
    boolean intruder,
    @Nullable Instant taintedAfter) {
  /** Nothing but production. */
  public static final Loss NONE = new Loss(Set.of(), Set.of(), Set.of(), Set.of(), false, null);

  public Loss {
    sites = Set.copyOf(sites);
    regions = Set.copyOf(regions);
    stores = Set.copyOf(stores);
    domains = Set.copyOf(domains);
    holders = Set.copyOf(holders);
    feeds = Set.copyOf(feeds);
  }

  /** One of places and times alone. */
  public Loss(
      Set<String> sites,
      Set<String> regions,
      Set<String> stores,
      Set<String> domains,
      boolean intruder,
      @Nullable Instant taintedAfter) {
    this(sites, regions, stores, domains, Set.of(), Set.of(), intruder, taintedAfter);
  }

  public static Loss ofSite(String site) {
    return new Loss(Set.of(site), Set.of(), Set.of(), Set.of(), false, null);
  }

  public static Loss ofRegion(String region) {
    return new Loss(Set.of(), Set.of(region), Set.of(), Set.of(), false, null);
  }

  public static Loss ofStores(Set<String> stores) {
    return new Loss(Set.of(), Set.of(), stores, Set.of(), false, null);
  }

  public static Loss ofDomain(String domain) {
    return new Loss(Set.of(), Set.of(), Set.of(), Set.of(domain), false, null);
  }

  public static Loss ofHolder(String holder) {
    return new Loss(Set.of(), Set.of(), Set.of(), Set.of(), Set.of(holder), Set.of(), false, null);
  }

  public static Loss ofIntruder() {
    return new Loss(Set.of(), Set.of(), Set.of(), Set.of(), true, null);
  }

  /** Whether a store is lost with all that lies on it. */
  public boolean takes(Store store) {
    return stores.contains(store.key())
        || store.site() != null && sites.contains(store.site())
        || store.region() != null && regions.contains(store.region())
        || domains.contains(store.effectiveFailureDomain());
  }

  /**
   * Whether it takes every key that encrypted backups of a resource are opened with. Where nobody says where they lie, it
   * does not: that is said by a criterion of its own.
   *
   * @param stores of the estate
   */
  public boolean takesKeys(Resource resource, List<Store> stores) {
    List<String> places = resource.restoring().keyPlaces();
    return !places.isEmpty() && places.stream().allMatch(p -> takesPlace(p, stores));
  }

  /**
   * A store by its key or name, else a site; what is neither is nowhere that a loss names. What lies at a site is not lost
   * with the stores there, but with the site, or with the region of all that stands there.
   */
  private boolean takesPlace(String place, List<Store> all) {
    if (holders.contains(place)) {
      return true;
    }
    List<Store> named = all.stream()
        .filter(s -> place.equals(s.key()) || place.equals(s.name()))
        .toList();
    if (!named.isEmpty()) {
      return named.stream().allMatch(this::takes);
    }
    List<Store> there = all.stream().filter(s -> place.equals(s.site())).toList();
    return sites.contains(place)
        || !there.isEmpty()
            && there.stream().allMatch(s -> s.region() != null && regions.contains(s.region()));
  }

  /** Whether it takes everybody who is said to be able to bring a resource back; where nobody is named, it does not. */
  public boolean takesRestorers(Resource resource) {
    List<String> restorers = resource.restoring().restorers();
    return !restorers.isEmpty() && holders.containsAll(restorers);
  }

  /**
   * Whether a point is not to be trusted.
   *
   * @param feed that told of it; null where that is not known, so that no feed taints it
   * @param dataTime epoch milliseconds
   */
  public boolean taints(@Nullable String feed, long dataTime) {
    boolean late = taintedAfter != null && dataTime > taintedAfter.toEpochMilli();
    return feeds.isEmpty()
        ? late
        : feed != null && feeds.contains(feed) && (late || taintedAfter == null);
  }

  /** Whether any point at all may be tainted. */
  public boolean taintsAny() {
    return taintedAfter != null || !feeds.isEmpty();
  }

  /** Whether an administrator could not delete it: what nobody says is neither offline nor locked counts as if he could. */
  public static boolean outlasts(Copy copy, Store store, Instant asAt) {
    return Boolean.FALSE.equals(store.online()) || copy.lockedAt(asAt);
  }

  /** As {@link #words(UnaryOperator)}, with the keys of stores. */
  public String words() {
    return words(key -> "store " + key);
  }

  /**
   * For people: what is lost, in a few words.
   *
   * @param store what a store is called, by its key
   */
  public String words(UnaryOperator<String> store) {
    List<String> parts = new ArrayList<>();
    add(parts, "site", sites);
    add(parts, "region", regions);
    new TreeSet<>(stores).forEach(s -> parts.add(store.apply(s)));
    add(parts, "failure domain", domains);
    if (intruder) {
      parts.add("all that an administrator could delete");
    }
    parts.addAll(new TreeSet<>(holders));
    String after = taintedAfter == null ? "" : " after " + taintedAfter;
    new TreeSet<>(feeds).forEach(f -> parts.add("what the feed " + f + " told of" + after));
    if (feeds.isEmpty() && taintedAfter != null) {
      parts.add("all data" + after);
    }
    return parts.isEmpty() ? "production alone" : String.join(", ", parts);
  }

  private static void add(List<String> parts, String what, Set<String> names) {
    for (String name : new TreeSet<>(names)) {
      parts.add(what + " " + name);
    }
  }
}
