package hardproof.core.copies;

import hardproof.core.estate.Medium;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.wording.Coded;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Stream;

/**
 * The five figures of the copy rule for one resource. Copies count once per failure domain; one in
 * the failure domain of the production data is no copy. Production is the first copy and its medium
 * the first medium.
 *
 * @param counted the store that stands for each failure domain that counts
 * @param notCounted for each copy that did not count, why
 * @param heldDownBy for each of copies, media, off-site, and offline or locked: the point of a chain that
 *     has the fewest and so holds it down; empty where none does
 */
public record CopyCount(
    int copies,
    int media,
    int offSite,
    int offlineOrLocked,
    int errors,
    List<String> counted,
    List<String> notCounted,
    List<String> heldDownBy) {

  /**
   * The same with figures that chains hold down.
   *
   * @param figures copies, media, off-site, offline or locked
   * @param by for each of them, the point that holds it down; null where none does
   */
  public CopyCount held(int[] figures, String[] by) {
    return new CopyCount(
        figures[0],
        figures[1],
        figures[2],
        figures[3],
        errors,
        counted,
        notCounted,
        Stream.of(by).map(b -> b == null ? "" : b).toList());
  }

  /** The point that holds the number of a figure down, in words; empty when none does. */
  public String heldDown(int figure) {
    return heldDownBy.get(figure).isEmpty()
        ? ""
        : ", held down by " + heldDownBy.get(figure) + ", from which the others hang";
  }

  /**
   * @param readable copies of fresh, usable points that are present and not damaged
   * @param errors copies of fresh points that are damaged or failed to be read
   */
  public static CopyCount of(
      Resource resource,
      Collection<Copy> readable,
      int errors,
      Function<String, Store> stores,
      Instant asAt) {
    String production = resource.tags().get(Resource.FAILURE_DOMAIN_TAG);
    Medium productionMedium = Optional.ofNullable(resource.tags().get(Resource.MEDIUM_TAG))
        .flatMap(m -> Coded.find(Medium.class, m))
        .orElse(Medium.DISK);
    Map<String, Store> domains = new LinkedHashMap<>();
    TreeSet<String> notCounted = new TreeSet<>();
    TreeSet<Medium> media = new TreeSet<>();
    TreeSet<String> offSiteDomains = new TreeSet<>();
    TreeSet<String> safeDomains = new TreeSet<>();
    media.add(productionMedium);
    for (Copy copy : readable) {
      Store store = stores.apply(copy.store());
      if (store == null) {
        notCounted.add(copy.store() + " is not a known store");
        continue;
      }
      String domain = store.effectiveFailureDomain();
      if (domain.equals(production)) {
        notCounted.add(store.name() + " is in the same failure domain as the data itself");
        continue;
      }
      Store first = domains.putIfAbsent(domain, store);
      if (first != null && !first.key().equals(store.key())) {
        notCounted.add(store.name() + " is in the same failure domain as " + first.name());
      }
      media.add(store.medium());
      if (store.site() != null
          && resource.site() != null
          && !store.site().equalsIgnoreCase(resource.site())) {
        offSiteDomains.add(domain);
      }
      boolean locked = copy.lockedUntil() != null && copy.lockedUntil().isAfter(asAt);
      if (locked || Boolean.FALSE.equals(store.online())) {
        safeDomains.add(domain);
      }
    }
    List<String> counted = new ArrayList<>();
    domains.values().forEach(s -> counted.add(s.name()));
    return new CopyCount(
        1 + domains.size(),
        media.size(),
        offSiteDomains.size(),
        safeDomains.size(),
        errors,
        List.copyOf(counted),
        List.copyOf(notCounted),
        List.of("", "", "", ""));
  }
}
