package hardproof.core.estate;

/**
 * A place where copies live. {@code throughput} in bytes a second; null means not known.
 *
 * @param deleteApprovals how many people it takes to delete a copy before its time, as declared
 */
public record Store(
    String key,
    String name,
    String site,
    String region,
    Medium medium,
    String failureDomain,
    Boolean online,
    Boolean canLock,
    Redundancy redundancy,
    Long throughput,
    String path,
    Integer deleteApprovals) {

  /** The same, where deleting needs so many people. */
  public Store deletedBy(int people) {
    return new Store(
        key,
        name,
        site,
        region,
        medium,
        failureDomain,
        online,
        canLock,
        redundancy,
        throughput,
        path,
        people);
  }

  /** Stores in one failure domain fail together; a store that names none is its own. */
  public String effectiveFailureDomain() {
    return failureDomain == null ? "store:" + key : failureDomain;
  }
}
