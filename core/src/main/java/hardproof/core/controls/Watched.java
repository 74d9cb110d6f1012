package hardproof.core.controls;

import hardproof.core.insights.Stretch;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A period, and when findings were open in it as far as somebody looked.
 *
 * @param from its begin
 * @param since when this installation began to look; null where it never did
 * @param stretches that touch the period, by when they opened
 */
public record Watched(Instant from, @Nullable Instant since, List<Stretch> stretches) {
  public Watched {
    Objects.requireNonNull(from);
    stretches = List.copyOf(stretches);
  }

  /** From when on anything can be said; null when nothing can. */
  @Nullable
  Instant begin() {
    return since == null ? null : since.isAfter(from) ? since : from;
  }
}
