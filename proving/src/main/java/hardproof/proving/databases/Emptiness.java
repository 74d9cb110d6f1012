package hardproof.proving.databases;

import hardproof.core.wording.Wording;

/**
 * How much a restored database holds: one without a row is not what anybody meant to keep, unless they said
 * so.
 *
 * @param sentence for people
 */
public record Emptiness(boolean empty, String sentence) {
  /**
   * @param tables that are there
   * @param filled of them, that hold a row
   */
  static Emptiness of(long tables, long filled) {
    if (tables == 0 && filled == 0) {
      return new Emptiness(true, "the database holds no table");
    }
    return filled == 0
        ? new Emptiness(
            true,
            tables == 1
                ? "the one table of the database holds no row"
                : "none of the " + tables + " tables of the database holds a row")
        : new Emptiness(false, Wording.count(tables, "table", "tables"));
  }
}
