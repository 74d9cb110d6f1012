package hardproof.server.survival;

import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.losses.Loss;
import hardproof.core.wording.WrongValue;
import io.swagger.v3.oas.annotations.Parameter;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** A loss as a request names it; all of its parts together. */
public record LossQuery(
    @Parameter(description = "Sites that are lost, as stores name them") @Nullable
    List<String> site,

    @Parameter(description = "Regions that are lost, as stores name them") @Nullable
    List<String> region,

    @Parameter(description = "Keys of stores that are lost") @Nullable
    List<String> store,

    @Parameter(description = "Failure domains that are lost, as stores name them") @Nullable
    List<String> domain,

    @Parameter(
        description =
            "Whether all is lost that an administrator could delete: online, and not locked")
    @Nullable
    Boolean intruder,

    @Parameter(description = "An instant after which no data is to be trusted") @Nullable
    String taintedAfter,

    @Parameter(
        description =
            "Restores that go on at once, 1 to 1000; as many as drills may where it is left out")
    @Nullable
    Integer atOnce) {
  private static final int MOST_AT_ONCE = 1000;
  private static final Instant LATEST = Instant.parse("9999-12-31T00:00:00Z");

  /**
   * @throws WrongValue when it names what no store of the estate does
   */
  public Loss loss(Estate estate) {
    return of(estate, site, region, store, domain, intruder, taintedAfter);
  }

  /**
   * A loss of what is named; null where nothing is.
   *
   * @throws WrongValue when it names what no store of the estate does
   */
  public static Loss of(
      Estate estate,
      @Nullable List<String> site,
      @Nullable List<String> region,
      @Nullable List<String> store,
      @Nullable List<String> domain,
      @Nullable Boolean intruder,
      @Nullable String taintedAfter) {
    return new Loss(
        known("site", site, estate, Store::site),
        known("region", region, estate, Store::region),
        known("store", store, estate, Store::key),
        known("failure domain", domain, estate, Store::effectiveFailureDomain),
        Boolean.TRUE.equals(intruder),
        tainted(taintedAfter));
  }

  private static Set<String> known(
      String what, @Nullable List<String> named, Estate estate, Function<Store, String> of) {
    Set<String> all = new HashSet<>(named == null ? List.of() : named);
    Set<String> there = estate.facts().stores().stream()
        .map(s -> String.valueOf(of.apply(s)))
        .collect(Collectors.toSet());
    for (String one : all) {
      if (!there.contains(one)) {
        throw new WrongValue("no store names the " + what + " '" + one
            + "'; Integrity lists the stores, and stores.csv says where each is");
      }
    }
    return all;
  }

  private static @Nullable Instant tainted(@Nullable String taintedAfter) {
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

  /**
   * @param usual where nothing is said
   */
  int restores(int usual) {
    int many = atOnce == null ? Math.max(1, usual) : atOnce;
    if (many < 1 || many > MOST_AT_ONCE) {
      throw new WrongValue("restores at once are 1 to " + MOST_AT_ONCE + ", not " + many);
    }
    return many;
  }
}
