package hardproof.core.estate;

import hardproof.core.points.Consistency;
import hardproof.core.retention.Retention;
import hardproof.core.schedule.HoursOfDay;
import hardproof.core.schedule.Schedule;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What is promised for the resources in scope. Null means not stated.
 *
 * @param readBack whether each point is read back after it was written
 * @param copyWindow the hours in which copies may be made, in {@link #zone()}
 * @param exclude patterns of paths that are left out; {@code *} stands for any characters
 */
public record Policy(
    String key,
    String name,
    Selector scope,
    @Nullable Schedule schedule,
    JobWindow jobWindow,
    Retention retention,
    @Nullable Consistency consistency,
    @Nullable Boolean encrypted,
    @Nullable Boolean readBack,
    List<CopyTarget> copyTo,
    @Nullable HoursOfDay copyWindow,
    List<String> exclude) {
  /**
   * How long after its due time a job may begin, and must be done.
   *
   * @param startWindow how long after its due time a job may still begin
   * @param completeWithin how long after its due time a job must be done
   */
  public record JobWindow(
      @Nullable Duration startWindow, @Nullable Duration completeWithin) {}

  public Policy {
    retention = retention == null ? Retention.NONE : retention;
    copyTo = List.copyOf(copyTo);
    exclude = List.copyOf(exclude);
  }

  /** A store that must hold a copy within {@code deadline} of the point becoming available. */
  public record CopyTarget(String store, Duration deadline) {}

  /** The longest gap between starts; empty when no schedule says. */
  public Optional<Duration> longestGap(Instant asAt) {
    return schedule == null ? Optional.empty() : schedule.longestGap(asAt);
  }

  /** The zone of the schedule; UTC when none is given. */
  public ZoneId zone() {
    return schedule == null || schedule.zone() == null
        ? ZoneOffset.UTC
        : ZoneId.of(schedule.zone());
  }

  /** The same at other times. */
  public Policy withSchedule(Schedule other) {
    return with(scope, other, retention, exclude);
  }

  /** The same with another scope. */
  public Policy withScope(Selector other) {
    return with(other, schedule, retention, exclude);
  }

  /** The same, keeping its points for another time. */
  public Policy withRetention(Retention other) {
    return with(scope, schedule, other, exclude);
  }

  /** The same, leaving out something else. */
  public Policy withExclude(List<String> other) {
    return with(scope, schedule, retention, other);
  }

  private Policy with(
      Selector otherScope,
      @Nullable Schedule otherSchedule,
      Retention otherRetention,
      List<String> otherExclude) {
    return new Policy(
        key,
        name,
        otherScope,
        otherSchedule,
        jobWindow,
        otherRetention,
        consistency,
        encrypted,
        readBack,
        copyTo,
        copyWindow,
        otherExclude);
  }

  public @Nullable Duration startWindow() {
    return jobWindow.startWindow();
  }

  public @Nullable Duration completeWithin() {
    return jobWindow.completeWithin();
  }
}
