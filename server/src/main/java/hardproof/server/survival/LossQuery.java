package hardproof.server.survival;

import hardproof.core.facts.Estate;
import hardproof.core.losses.Loss;
import hardproof.core.wording.WrongValue;
import io.swagger.v3.oas.annotations.Parameter;
import java.util.List;
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
            "People, and places of keys that are neither site nor store, that are lost, as resources"
                + " name them")
    @Nullable
    List<String> holder,

    @Parameter(
        description =
            "Feeds by which nothing is to be trusted that came: later than taintedAfter, or at all")
    @Nullable
    List<String> feed,

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

  /**
   * @throws WrongValue when it names what no store of the estate does
   */
  public Loss loss(Estate estate) {
    return new LossDraft(site, region, store, domain, holder, feed, intruder, taintedAfter)
        .loss(estate);
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
