package hardproof.core.alerts;

import org.jspecify.annotations.Nullable;

/**
 * Why an alert is open. The kind and the subject stay the same for as long as it is the same alert.
 *
 * @param subject key of the workload, resource, feed or exception; of what there is only one of, its name
 * @param name what people call that
 * @param workload key of its workload; null where it has none
 * @param tier that the workload is of; null where none is known
 * @param counted others that come from the same cause, and are no alerts of their own
 */
public record AlertCause(
    AlertKind kind,
    String subject,
    String name,
    @Nullable String workload,
    @Nullable Integer tier,
    String sentence,
    int counted) {
  /** The same that stands for so many others. */
  AlertCause standingFor(int many) {
    return new AlertCause(kind, subject, name, workload, tier, sentence, many);
  }

  /** Stays the same while it is the same alert. */
  public String key() {
    return kind.code() + ":" + subject;
  }
}
