package hardproof.core.copies;

import hardproof.core.estate.Medium;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.wording.Coded;
import java.time.Instant;
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

  /** The figures of which there must be enough, and which a chain may hold down. */
  public enum Figure {
    COPIES,
    MEDIA,
    OFF_SITE,
    OFFLINE_OR_LOCKED
  }

  public int figure(Figure figure) {
    return switch (figure) {
      case COPIES -> copies;
      case MEDIA -> media;
      case OFF_SITE -> offSite;
      case OFFLINE_OR_LOCKED -> offlineOrLocked;
    };
  }

  /**
   * The same with figures that chains hold down.
   *
   * @param figures by {@link Figure}
   * @param by for each of them, the point that holds it down; null where none does
   */
  public CopyCount held(int[] figures, String[] by) {
    return new CopyCount(
        figures[Figure.COPIES.ordinal()],
        figures[Figure.MEDIA.ordinal()],
        figures[Figure.OFF_SITE.ordinal()],
        figures[Figure.OFFLINE_OR_LOCKED.ordinal()],
        errors,
        counted,
        notCounted,
        Stream.of(by).map(b -> b == null ? "" : b).toList());
  }

  /** The point that holds the number of a figure down, in words; empty when none does. */
  public String heldDown(Figure figure) {
    String by = heldDownBy.get(figure.ordinal());
    return by.isEmpty() ? "" : ", held down by " + by + ", from which the others hang";
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
    Counting counting = new Counting(resource, asAt);
    for (Copy copy : readable) {
      counting.add(copy, stores.apply(copy.store()));
    }
    return counting.count(errors);
  }

  /** The copies of one resource, each failure domain once. */
  private static final class Counting {
    private final Resource resource;
    private final Instant asAt;
    private final String production;
    private final Map<String, Store> domains = new LinkedHashMap<>();
    private final TreeSet<String> notCounted = new TreeSet<>();
    private final TreeSet<Medium> media = new TreeSet<>();
    private final TreeSet<String> offSiteDomains = new TreeSet<>();
    private final TreeSet<String> safeDomains = new TreeSet<>();

    Counting(Resource resource, Instant asAt) {
      this.resource = resource;
      this.asAt = asAt;
      this.production = resource.tags().get(Resource.FAILURE_DOMAIN_TAG);
      media.add(Optional.ofNullable(resource.tags().get(Resource.MEDIUM_TAG))
          .flatMap(m -> Coded.find(Medium.class, m))
          .orElse(Medium.DISK));
    }

    void add(Copy copy, Store store) {
      if (store == null) {
        notCounted.add(copy.store() + " is not a known store");
      } else if (store.effectiveFailureDomain().equals(production)) {
        notCounted.add(store.name() + " is in the same failure domain as the data itself");
      } else {
        addApart(copy, store);
      }
    }

    private void addApart(Copy copy, Store store) {
      String domain = store.effectiveFailureDomain();
      Store first = domains.putIfAbsent(domain, store);
      if (first != null && !first.key().equals(store.key())) {
        notCounted.add(store.name() + " is in the same failure domain as " + first.name());
      }
      media.add(store.medium());
      if (elsewhere(store)) {
        offSiteDomains.add(domain);
      }
      if (copy.lockedAt(asAt) || Boolean.FALSE.equals(store.online())) {
        safeDomains.add(domain);
      }
    }

    private boolean elsewhere(Store store) {
      return store.site() != null
          && resource.site() != null
          && !store.site().equalsIgnoreCase(resource.site());
    }

    CopyCount count(int errors) {
      return new CopyCount(
          1 + domains.size(),
          media.size(),
          offSiteDomains.size(),
          safeDomains.size(),
          errors,
          domains.values().stream().map(Store::name).toList(),
          List.copyOf(notCounted),
          List.of("", "", "", ""));
    }
  }
}
