package hardproof.server.facts;

import hardproof.core.estate.Selector;
import hardproof.core.feeds.Notation;
import hardproof.core.schedule.Schedule;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.server.schedule.Schedules;
import org.jspecify.annotations.Nullable;

/** How values are written in JSON, as recurrence rules and as formats of artifacts. */
public enum Notations implements Notation {
  /** Of what is brought in: its format must be one that there is. */
  BROUGHT_IN {
    @Override
    public String format(String text) {
      return ArtifactFormat.read(text);
    }
  },
  /** Of what was taken before: whatever its format is called. */
  KEPT {
    @Override
    public String format(String text) {
      return text;
    }
  };

  @Override
  public Selector selector(String json) {
    return SelectorJson.read(json);
  }

  @Override
  public String json(Selector selector) {
    return SelectorJson.write(selector);
  }

  @Override
  public Schedule schedule(String text, @Nullable String zone) {
    return Schedules.read(text, zone);
  }
}
