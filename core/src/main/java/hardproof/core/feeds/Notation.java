package hardproof.core.feeds;

import hardproof.core.estate.Selector;
import hardproof.core.schedule.Schedule;
import hardproof.core.wording.WrongValue;
import org.jspecify.annotations.Nullable;

/** How the values are written that need more than the core has: JSON, recurrence rules, artifacts. */
public interface Notation {
  /**
   * @throws WrongValue with a reason
   */
  Selector selector(String json);

  String json(Selector selector);

  /**
   * @param zone null where none is given
   * @throws WrongValue with a reason
   */
  Schedule schedule(String text, @Nullable String zone);

  /**
   * The format of an artifact.
   *
   * @throws WrongValue with a reason
   */
  String format(String text);
}
