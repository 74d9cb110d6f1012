package hardproof.core.programmes;

import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import org.jspecify.annotations.Nullable;

/**
 * From which copy a programme restores.
 *
 * @param store for {@link Way#STORE}: its key; else null
 */
public record CopyChoice(Way way, @Nullable String store) {
  /** Over time every copy is proven. */
  public static final CopyChoice NOT_LAST = new CopyChoice(Way.NOT_LAST, null);

  /** How the copy is chosen. */
  public enum Way implements Coded {
    /** Whichever can be read. */
    ANY("any copy"),
    /** One at another site than the resource's. */
    OFF_SITE("an off-site copy"),
    STORE("the copy on "),
    /** From the store that was not drilled for longest; one that never was comes first. */
    NOT_LAST("not the copy drilled last");

    private final String words;

    Way(String words) {
      this.words = words;
    }
  }

  /**
   * @throws WrongValue where a store is named that is not asked, or none that is
   */
  public CopyChoice {
    if ((way == Way.STORE) != (store != null && !store.isBlank())) {
      throw new WrongValue(
          way == Way.STORE
              ? "say which store it restores from"
              : "a store is named, and " + way.words + " is asked for");
    }
  }

  /**
   * For people.
   *
   * @param storeName of the store that it names
   */
  public String words(@Nullable String storeName) {
    return way == Way.STORE ? way.words + storeName : way.words;
  }
}
