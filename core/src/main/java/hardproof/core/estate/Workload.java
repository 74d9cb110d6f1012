package hardproof.core.estate;

import hardproof.core.ladder.Rung;
import java.time.Duration;
import java.util.List;

/**
 * A business service. Objectives ({@code rpo}, {@code rto}, {@code rung}) override those of its
 * tier; null means "as the tier says". {@code tier} is 1 (most critical) to 4, null when not known.
 */
public record Workload(
    String key,
    String name,
    String owner,
    Integer tier,
    List<String> needs,
    Duration rpo,
    Duration rto,
    Rung rung,
    String dataClass,
    String description) {
  /** The tier of which the most is demanded. */
  public static final int STRICTEST = 1;

  public Workload {
    needs = List.copyOf(needs);
  }

  /** The tier whose demands hold for it: where nobody has said which it is of, the strictest. */
  public int heldTo() {
    return tier == null ? STRICTEST : tier;
  }
}
