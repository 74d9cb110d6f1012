package hardproof.core.feeds;

import hardproof.core.estate.Selector;
import hardproof.core.schedule.Schedule;
import java.time.Duration;

/**
 * Stands in for what needs JSON and recurrence rules: a selector is "all" or one FIELD=VALUE, every rule of
 * recurrence hourly.
 */
public class PlainNotation implements Notation {
  @Override
  public Selector selector(String json) {
    String[] pair = json.split("=", 2);
    return pair.length < 2
        ? Selector.EVERYTHING
        : Selector.allOf(Selector.Condition.is(pair[0], pair[1]));
  }

  @Override
  public String json(Selector selector) {
    return selector.all().isEmpty()
        ? "all"
        : selector.all().get(0).field() + "=" + selector.all().get(0).in().get(0);
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
