package hardproof.core.insights;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A stretch in which a finding was open.
 *
 * @param closed null while it is
 */
public record Stretch(
    String finding, Integer tier, Instant opened, @Nullable Instant closed) {
  /** The key of what the finding is about: what follows its code. */
  public String subject() {
    return finding.substring(finding.indexOf(':') + 1);
  }
}
