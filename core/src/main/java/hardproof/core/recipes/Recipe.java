package hardproof.core.recipes;

import hardproof.core.wording.WrongValue;
import java.util.List;

/**
 * Turns somebody else's report into rows of a bundle, of several kinds at once.
 *
 * @param times how its times are read
 * @param outputs the kinds of rows it gives, in their order
 */
public record Recipe(String name, Layout layout, TimeReading times, List<Output> outputs) {
  private static final int LONGEST_NAME = 200;
  private static final int MOST_OUTPUTS = 40;

  /**
   * @throws WrongValue with what can't be right
   */
  public Recipe {
    if (name == null || name.isBlank() || name.length() > LONGEST_NAME) {
      throw new WrongValue("a recipe needs a name of at most " + LONGEST_NAME + " characters");
    }
    if (outputs.isEmpty() || outputs.size() > MOST_OUTPUTS) {
      throw new WrongValue("a recipe gives 1 to " + MOST_OUTPUTS + " kinds of rows");
    }
    outputs = List.copyOf(outputs);
  }

  /** The same under another name. */
  public Recipe named(String other) {
    return new Recipe(other, layout, times, outputs);
  }

  /** For times that say their offset themselves. */
  public static Recipe plain(String name, Output output) {
    return new Recipe(name, Layout.PLAIN, new TimeReading(null, null), List.of(output));
  }
}
