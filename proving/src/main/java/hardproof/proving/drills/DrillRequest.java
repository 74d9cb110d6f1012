package hardproof.proving.drills;

import hardproof.core.drills.Method;
import hardproof.proving.boot.ScreenReader;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.stores.ArtifactStore;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What is to be drilled.
 *
 * @param run names the sandbox
 * @param chain the full first; never empty
 * @param checks asked of what was restored
 * @param before the artifact of the point before, to compare with; null when there is none
 * @param accepted screens that people accepted for this machine
 * @param beside the members of a rehearsal that it needs; null for a drill by itself
 */
public record DrillRequest(
    String run,
    Of of,
    From from,
    Method method,
    List<Artifact> chain,
    List<Check> checks,
    boolean hold,
    DrillOptions options,
    @Nullable Artifact before,
    List<ScreenReader.Accepted> accepted,
    @Nullable Beside beside) {
  /**
   * What is up when a member of a rehearsal begins.
   *
   * @param name of the member itself
   * @param needed names of the members that it needs, by their keys
   * @param up all that are up, to which it is added
   */
  public record Beside(String name, Map<String, String> needed, UpMembers up) {
    public Beside {
      needed = Map.copyOf(needed);
    }
  }

  /** A drill by itself. */
  public DrillRequest(
      String run,
      Of of,
      From from,
      Method method,
      List<Artifact> chain,
      List<Check> checks,
      boolean hold,
      DrillOptions options,
      @Nullable Artifact before,
      List<ScreenReader.Accepted> accepted) {
    this(run, of, from, method, chain, checks, hold, options, before, accepted, null);
  }

  /**
   * What is drilled.
   *
   * @param dataTime of the point; null when not known
   */
  public record Of(String resource, String point, @Nullable Instant dataTime) {}

  /**
   * Where all artifacts of the chain are read from.
   *
   * @param store where all artifacts of the chain are read from
   */
  public record From(String storeKey, String storeName, ArtifactStore store) {}

  public DrillRequest {
    chain = List.copyOf(chain);
    checks = List.copyOf(checks);
    accepted = List.copyOf(accepted);
    if (chain.isEmpty()) {
      throw new IllegalArgumentException("a drill needs at least one artifact");
    }
  }

  Artifact last() {
    return chain.get(chain.size() - 1);
  }

  /** Whether a person said that there is nothing in it, and that this is right. */
  boolean mayBeEmpty() {
    return checks.stream().anyMatch(c -> c.type() == CheckType.EMPTY);
  }

  /** Checks that are asked of what was restored here. */
  List<Check> inside() {
    return checks.stream().filter(c -> !c.outside() && !c.ofNeeded()).toList();
  }

  /** Checks that are asked of what it needs, too. */
  List<Check> ofNeeded() {
    return checks.stream().filter(Check::ofNeeded).toList();
  }

  /** Whether anything is asked of what was restored itself. */
  boolean asked() {
    return checks.stream().anyMatch(c -> c.type() != CheckType.NEEDED_ANSWERS);
  }

  /** Whether it is a member of a rehearsal, and stays up until that has ended. */
  boolean together() {
    return beside != null;
  }

  /** The same as a member of a rehearsal. */
  public DrillRequest beside(Beside others) {
    return new DrillRequest(
        run, of, from, method, chain, checks, true, options, before, accepted, others);
  }

  /** Checks that somebody outside answers. */
  public List<Check> outside() {
    return checks.stream().filter(c -> c.outside()).toList();
  }

  public String resource() {
    return of.resource();
  }

  public String point() {
    return of.point();
  }

  public Instant dataTime() {
    return of.dataTime();
  }

  public String storeKey() {
    return from.storeKey();
  }

  public String storeName() {
    return from.storeName();
  }

  public ArtifactStore store() {
    return from.store();
  }
}
