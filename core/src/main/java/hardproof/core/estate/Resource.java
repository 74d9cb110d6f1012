package hardproof.core.estate;

import java.time.Instant;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * Something that holds data and can be restored by itself. Null means not known.
 */
public record Resource(
    String key,
    String name,
    Kind kind,
    Links links,
    Place place,
    Volume volume,
    Seen seen,
    Credentials credentials,
    Map<String, String> tags,
    List<String> importantPaths,
    Restoring restoring,
    String feed) {
  /**
   * What a restore of it needs besides its data.
   *
   * @param keyPlaces where the keys lie that its backups are opened with: names of sites and stores, or of other places
   * @param kit the boot medium or recovery kit that it is started from
   * @param kitTried when that was last tried
   * @param runbook where the steps are written down
   * @param runbookTried when they were last followed
   * @param licence what has to be there before it runs again
   * @param licenceUntil when that ends
   * @param restorers who can bring it back
   */
  public record Restoring(
      List<String> keyPlaces,
      @Nullable String kit,
      @Nullable Instant kitTried,
      @Nullable String runbook,
      @Nullable Instant runbookTried,
      @Nullable String licence,
      @Nullable Instant licenceUntil,
      List<String> restorers) {
    /** Nobody has said anything. */
    public static final Restoring NOT_KNOWN =
        new Restoring(List.of(), null, null, null, null, null, null, List.of());

    public Restoring {
      keyPlaces = List.copyOf(keyPlaces);
      restorers = List.copyOf(restorers);
    }
  }

  /** One of which nobody said what a restore needs. */
  public Resource(
      String key,
      String name,
      Kind kind,
      Links links,
      Place place,
      Volume volume,
      Seen seen,
      Credentials credentials,
      Map<String, String> tags,
      List<String> importantPaths,
      String feed) {
    this(
        key,
        name,
        kind,
        links,
        place,
        volume,
        seen,
        credentials,
        tags,
        importantPaths,
        Restoring.NOT_KNOWN,
        feed);
  }

  /** What it belongs to, lies in and needs. */
  public record Links(@Nullable String workload, @Nullable String parent, List<String> needs) {
    public Links {
      needs = List.copyOf(needs);
    }
  }

  /** Where it stands. */
  public record Place(
      @Nullable String site,
      @Nullable String region,
      @Nullable String environment) {}

  /** How much it holds, in bytes. */
  public record Volume(@Nullable Long sizeBytes, @Nullable Long dailyChangeBytes) {}

  /**
   * When it was there.
   *
   * @param missingSince since when full listings of its feed leave it out; null while they name it
   */
  public record Seen(
      @Nullable Instant firstSeen,
      @Nullable Instant lastSeen,
      @Nullable Instant agentSeen,
      @Nullable Instant missingSince) {}

  /**
   * The credentials that its backups use.
   *
   * @param credentialsChanged when the credentials that its backups use last changed
   * @param credentialsTested when they were last tested
   */
  public record Credentials(
      @Nullable Instant credentialsChanged, @Nullable Instant credentialsTested) {}

  /** The tag that names the failure domain production data lives in. */
  public static final String FAILURE_DOMAIN_TAG = "failure_domain";

  /** The tag that names the medium production data lives on; disk where it is not given. */
  public static final String MEDIUM_TAG = "medium";

  public Resource {
    tags = Collections.unmodifiableMap(new TreeMap<>(tags));
    importantPaths = List.copyOf(importantPaths);
  }

  /** The same with what was told later of times up to an instant. */
  public Resource withTimes(
      Instant otherLastSeen, Instant otherAgentSeen, Instant otherChanged, Instant otherTested) {
    return new Resource(
        key,
        name,
        kind,
        links,
        place,
        volume,
        new Seen(seen.firstSeen(), otherLastSeen, otherAgentSeen, seen.missingSince()),
        new Credentials(otherChanged, otherTested),
        tags,
        importantPaths,
        restoring,
        feed);
  }

  /** The same, left out by full listings since an instant; null when it is named again. */
  public Resource missing(Instant since) {
    return new Resource(
        key,
        name,
        kind,
        links,
        place,
        volume,
        new Seen(seen.firstSeen(), seen.lastSeen(), seen.agentSeen(), since),
        credentials,
        tags,
        importantPaths,
        restoring,
        feed);
  }

  public @Nullable String workload() {
    return links.workload();
  }

  public @Nullable String parent() {
    return links.parent();
  }

  public List<String> needs() {
    return links.needs();
  }

  public @Nullable String site() {
    return place.site();
  }

  public @Nullable String region() {
    return place.region();
  }

  public @Nullable String environment() {
    return place.environment();
  }

  public @Nullable Long sizeBytes() {
    return volume.sizeBytes();
  }

  public @Nullable Long dailyChangeBytes() {
    return volume.dailyChangeBytes();
  }

  public @Nullable Instant firstSeen() {
    return seen.firstSeen();
  }

  public @Nullable Instant lastSeen() {
    return seen.lastSeen();
  }

  public @Nullable Instant agentSeen() {
    return seen.agentSeen();
  }

  public @Nullable Instant missingSince() {
    return seen.missingSince();
  }

  public @Nullable Instant credentialsChanged() {
    return credentials.credentialsChanged();
  }

  public @Nullable Instant credentialsTested() {
    return credentials.credentialsTested();
  }
}
