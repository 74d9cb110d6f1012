package hardproof.core.estate;

/** A place where copies live. {@code throughput} in bytes a second; null means not known. */
public record Store(
    String key,
    String name,
    String site,
    String region,
    Medium medium,
    String failureDomain,
    Boolean online,
    Boolean canLock,
    String redundancy,
    Long throughput,
    String path) {

  /** Stores in one failure domain fail together; a store that names none is its own. */
  public String effectiveFailureDomain() {
    return failureDomain == null ? "store:" + key : failureDomain;
  }
}
