package hardproof.server.schedule;

import hardproof.core.wording.WrongValue;
import java.util.List;
import org.dmfs.rfc5545.recur.Freq;
import org.dmfs.rfc5545.recur.RecurrenceRule;
import org.dmfs.rfc5545.recur.RecurrenceRule.Part;

/**
 * What a recurrence rule may ask for. A rule is a few words, and can stand for more dates than anybody
 * could count; each evaluation counts some thousand of them for each rule.
 */
final class RuleBounds {
  private static final int MOST_STARTS = 1_000;
  private static final int LARGEST_INTERVAL = 1_000;

  /** Dates that a rule names within one of its periods: 24 hours of every minute, and some. */
  private static final long MOST_IN_A_PERIOD = 1_500;

  private RuleBounds() {}

  /**
   * @throws WrongValue with what is beyond what is read
   */
  static void check(RecurrenceRule rule) {
    if (rule.getFreq() == Freq.SECONDLY) {
      throw new WrongValue("every few seconds is oftener than anything is backed up");
    }
    if (rule.getCount() != null && rule.getCount() > MOST_STARTS) {
      throw new WrongValue(
          "COUNT is more than " + MOST_STARTS + "; leave it out, or give an UNTIL");
    }
    if (rule.getInterval() > LARGEST_INTERVAL) {
      throw new WrongValue("INTERVAL is more than " + LARGEST_INTERVAL);
    }
    if (inAPeriod(rule) > MOST_IN_A_PERIOD) {
      throw new WrongValue(
          "it names more than " + MOST_IN_A_PERIOD + " dates in each of its periods; write it by a"
              + " shorter one, such as FREQ=DAILY or FREQ=HOURLY");
    }
  }

  /** At the most, as the parts multiply each other (RFC 5545 section 3.3.10). */
  private static long inAPeriod(RecurrenceRule rule) {
    long days = switch (rule.getFreq()) {
      case YEARLY -> 366;
      case MONTHLY -> 31;
      case WEEKLY -> 7;
      default -> 1;
    };
    boolean someDays = rule.getByDayPart() != null
        || rule.getByPart(Part.BYMONTHDAY) != null
        || rule.getByPart(Part.BYYEARDAY) != null
        || rule.getByPart(Part.BYWEEKNO) != null;
    return (someDays ? days : number(rule.getByPart(Part.BYMONTH)))
        * number(rule.getByPart(Part.BYHOUR))
        * number(rule.getByPart(Part.BYMINUTE))
        * number(rule.getByPart(Part.BYSECOND));
  }

  private static long number(List<Integer> part) {
    return part == null ? 1 : Math.max(1, part.size());
  }
}
