package hardproof.standins.estate;

import hardproof.proving.checks.Check;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The demo estate, laid relative to an instant so that ages are always as told. The same seed and
 * instant always give the same facts and the same bytes.
 *
 * @param deliveries what the feeds brought, oldest first
 * @param checks by resource, asked of what is restored of it
 * @param laterChecks added later on, oldest first
 * @param regions by data class, where copies may lie
 * @param drills what was drilled in the past, oldest first
 * @param rehearsals what was brought back whole in the past, oldest first
 * @param starts instants of the past at which its programmes were looked after, oldest first
 */
public record DemoEstate(
    List<Delivery> deliveries,
    List<PastDrill> drills,
    List<PastRehearsal> rehearsals,
    Map<String, List<Check>> checks,
    List<LaterChecks> laterChecks,
    List<DemoProgramme> programmes,
    List<Instant> starts,
    List<DemoPerson> people,
    Map<String, List<String>> regions) {
  /** The password of all demo people. */
  public static final String PASSWORD = "demo";

  /** A file that a feed brought. */
  public record Delivery(Instant received, String feed, String file, String content) {}

  /**
   * A drill to be carried out on the facts and bytes of that day.
   *
   * @param movedTo folder beside the stores to which somebody moved what it restored, with a link left in
   *     its place; null where nobody touched it
   */
  public record PastDrill(
      Instant at,
      String resource,
      String method,
      String by,
      String reason,
      @Nullable String movedTo) {}

  /**
   * A workload that was brought back whole.
   *
   * @param took how long each of its members did, by key: stores of those days were far slower than a demo's
   */
  public record PastRehearsal(
      Instant at, String workload, String by, String reason, Map<String, Duration> took) {}

  /** A check that was added to those of a resource at an instant. */
  public record LaterChecks(Instant at, String resource, Check check) {}

  /**
   * A programme.
   *
   * @param scope as JSON
   * @param within how old the points may be that it draws from; null where it drills the newest
   * @param sample so many of all points; null for one of each resource
   * @param begins since when it is there
   */
  public record DemoProgramme(
      String key,
      String name,
      String scope,
      String rule,
      String startWindow,
      @Nullable String within,
      @Nullable Integer sample,
      Instant begins) {}

  /** Somebody who may sign in. */
  public record DemoPerson(String name, String fullName, String role) {}

  /**
   * Makes the estate and writes its artifacts.
   *
   * @param stores folder under which each store gets its folder
   */
  public static DemoEstate make(Path stores, Instant now, long seed) throws IOException {
    return new EstateMaker(stores, now, seed).make();
  }
}
