package hardproof.core.programmes;

import hardproof.core.estate.Selector;
import hardproof.core.ladder.Rung;
import hardproof.core.schedule.HoursOfDay;
import hardproof.core.schedule.Recurrence;
import java.time.Duration;
import org.jspecify.annotations.Nullable;

/**
 * What a programme says about which drills, when and how.
 *
 * @param demanding only resources of which at least that rung is demanded; null for all of the scope
 */
public record ProgrammeTerms(
    String key,
    String name,
    Selector scope,
    @Nullable Rung demanding,
    Timing timing,
    Showing showing,
    PointChoice point,
    CopyChoice copy,
    Duration hold,
    Limits limits) {
  /**
   * When it drills.
   *
   * @param rule null where it drills as needed: every night what would lapse soon
   * @param startWindow how late a start by the rule may still begin
   * @param hours in which its drills may begin and must end; null for those of the installation
   */
  public record Timing(
      @Nullable Recurrence rule,
      Duration startWindow,
      @Nullable HoursOfDay hours) {}

  public boolean asNeeded() {
    return timing.rule() == null;
  }

  /** Whether it drills the same points and copies in the same way; {@code other} may be none. */
  public boolean drillsLike(@Nullable ProgrammeTerms other) {
    return other != null
        && showing.equals(other.showing)
        && point.equals(other.point)
        && copy.equals(other.copy);
  }

  /** The same, drilling in another way. */
  public ProgrammeTerms showing(Showing other) {
    return new ProgrammeTerms(
        key, name, scope, demanding, timing, other, point, copy, hold, limits);
  }

  /** The same from another copy. */
  public ProgrammeTerms copy(CopyChoice other) {
    return new ProgrammeTerms(
        key, name, scope, demanding, timing, showing, point, other, hold, limits);
  }

  /** The same without its rule. */
  public ProgrammeTerms drillingAsNeeded() {
    Timing needed = new Timing(null, timing.startWindow(), timing.hours());
    return new ProgrammeTerms(
        key, name, scope, demanding, needed, showing, point, copy, hold, limits);
  }
}
