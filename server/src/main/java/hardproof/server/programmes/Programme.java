package hardproof.server.programmes;

import hardproof.core.estate.Selector;
import hardproof.core.ladder.Rung;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.Limits;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.core.programmes.Showing;
import hardproof.core.schedule.HoursOfDay;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import hardproof.proving.checks.Check;
import hardproof.server.schedule.RfcRecurrence;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Drills that start by themselves: which resources, how often, and how.
 *
 * @param demanding only resources of which at least that rung is demanded; null for all of the scope
 */
public record Programme(
    String key,
    String name,
    Selector scope,
    @Nullable Rung demanding,
    When when,
    How how,
    Limits limits,
    OnFailure onFailure,
    Tell tell,
    Version version) {
  /**
   * @throws WrongValue where a sample is asked for of what is drilled as needed, or something else of a rehearsal than
   *     what it brings back
   */
  public Programme {
    boolean newest = how.point().way() == PointChoice.Way.NEWEST
        && how.copy().way() == CopyChoice.Way.ANY
        && how.checks() == null;
    if (how.showing().rehearses() && !newest) {
      throw new WrongValue(
          "a rehearsal brings every member back from its newest point, from any copy, and asks the checks that"
              + " are kept with it: choose these, or another way to drill");
    }
    if (how.point().sample() != null && when.rule() == null) {
      throw new WrongValue(
          "a sample of all points is drawn by a recurrence rule: what drills as needed"
              + " chooses by what lapses, and that is no sample");
    }
  }

  /**
   * When it drills.
   *
   * @param rule RFC 5545 recurrence rule; null where it drills as needed
   * @param begins DTSTART of the rule
   * @param startWindow how late a start by the rule may still begin
   * @param hours in which its drills may go on; null for those of the installation
   */
  public record When(
      @Nullable String rule,
      String zone,
      Instant begins,
      Duration startWindow,
      @Nullable HoursOfDay hours) {}

  /**
   * How it drills.
   *
   * @param point which of a resource's points
   * @param copy from which of the point's copies
   * @param checks its own; null for those that are kept with each resource
   * @param hold how long what was restored stays for people to look
   */
  public record How(
      Showing showing,
      PointChoice point,
      CopyChoice copy,
      @Nullable List<Check> checks,
      Duration hold) {
    private static final Duration HOLD_MOST = Duration.ofDays(30);

    public How {
      if (hold.isNegative() || hold.compareTo(HOLD_MOST) > 0) {
        throw new WrongValue("what is restored is held for up to 30 days");
      }
    }
  }

  /**
   * What it does when a drill does not come to an end, or fails.
   *
   * @param tries of a drill that was interrupted or refused, the first counted; one that failed is never tried again
   * @param pause between two tries
   * @param look whether the last good point is looked for when the content of one was bad
   */
  public record OnFailure(int tries, Duration pause, boolean look) {
    private static final int TRIES_MOST = 10;

    /** One try, and the last good point is looked for. */
    public static final OnFailure USUAL = new OnFailure(1, Duration.ZERO, true);

    public OnFailure {
      if (tries < 1 || tries > TRIES_MOST) {
        throw new WrongValue("a drill is tried 1 to " + TRIES_MOST + " times");
      }
      if (pause.isNegative() || pause.compareTo(Duration.ofDays(7)) > 0) {
        throw new WrongValue("the wait between two tries is up to 7 days");
      }
    }
  }

  /** What the owner of a workload is told. */
  public enum Tell implements Coded {
    FAILURES,
    /** Also of drills that passed. */
    EVERYTHING,
    NOTHING
  }

  /**
   * Which state of it this is.
   *
   * @param recordedAt when it came to be so
   * @param changedBy who made it so; empty where that was not written down
   * @param handledUntil due starts up to here have been started or recorded as missed
   */
  public record Version(Instant recordedAt, String changedBy, Instant handledUntil) {}

  /** Begins now, as others do where nothing else is said. */
  public static Programme byRule(
      String key,
      String name,
      Selector scope,
      String rule,
      Duration startWindow,
      Showing showing,
      PointChoice point,
      CopyChoice copy,
      Instant begins) {
    return new Programme(
        key,
        name,
        scope,
        null,
        new When(rule, "UTC", begins, startWindow, null),
        new How(showing, point, copy, null, Duration.ZERO),
        Limits.NONE,
        OnFailure.USUAL,
        Tell.FAILURES,
        new Version(begins, "", begins));
  }

  /** The same, doing something else where a drill fails. */
  public Programme with(OnFailure other) {
    return new Programme(key, name, scope, demanding, when, how, limits, other, tell, version);
  }

  /**
   * What the core needs to know of it.
   *
   * @throws WrongValue when its rule or zone is none
   */
  public ProgrammeTerms terms() {
    return new ProgrammeTerms(
        key,
        name,
        scope,
        demanding,
        new ProgrammeTerms.Timing(
            when.rule() == null ? null : RfcRecurrence.of(when.rule(), when.zone(), when.begins()),
            when.startWindow(),
            when.hours()),
        how.showing(),
        how.point(),
        how.copy(),
        how.hold(),
        limits);
  }
}
