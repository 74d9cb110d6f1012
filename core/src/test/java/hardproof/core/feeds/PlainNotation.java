package hardproof.core.feeds;

import hardproof.core.estate.Selector;
import hardproof.core.schedule.Schedule;
import java.time.Duration;

/** Stands in for what needs JSON and recurrence rules: every selector is everything, every schedule hourly. */
public class PlainNotation implements Notation {
  @Override
  public Selector selector(String json) {
    return Selector.EVERYTHING;
  }

  @Override
  public String json(Selector selector) {
    return "all";
  }

  @Override
  public Schedule schedule(String text, String zone) {
    return Schedule.every(Duration.ofHours(1));
  }

  @Override
  public String format(String text) {
    return text;
  }
}
