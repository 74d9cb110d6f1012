package hardproof.core.schedule;

import hardproof.core.wording.WrongValue;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.TreeSet;
import java.util.stream.Collectors;

/**
 * Schedules written as five cron fields (minute, hour, day of month, month, day of week; POSIX
 * crontab), turned into recurrence rules of RFC 5545, so that a clock change is treated alike however
 * a schedule was written. Where day of month and day of week are both restricted, either is enough,
 * as POSIX says: that needs two rules.
 */
public final class Cron {
  private static final List<String> DAYS = List.of("SU", "MO", "TU", "WE", "TH", "FR", "SA");
  private static final List<String> DAY_NAMES =
      List.of("sun", "mon", "tue", "wed", "thu", "fri", "sat");
  private static final List<String> MONTH_NAMES =
      List.of("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec");

  private Cron() {}

  /** Five fields with blanks between them. */
  public static boolean looksLike(String text) {
    return text.strip().split("\\s+").length == 5 && !text.contains("=");
  }

  /**
   * @return one rule, or two of which either starts a job
   * @throws WrongValue naming the field that can't be read
   */
  public static List<String> rules(String text) {
    String[] fields = text.strip().split("\\s+");
    if (fields.length != 5) {
      throw new WrongValue(
          "is not five cron fields: minute, hour, day of month, month, day of week");
    }
    TreeSet<Integer> minutes = values(fields[0], "minute", 0, 59, List.of());
    TreeSet<Integer> hours = values(fields[1], "hour", 0, 23, List.of());
    TreeSet<Integer> monthDays = values(fields[2], "day of month", 1, 31, List.of());
    TreeSet<Integer> months = values(fields[3], "month", 1, 12, MONTH_NAMES);
    TreeSet<Integer> weekDays = values(fields[4], "day of week", 0, 7, DAY_NAMES);
    if (weekDays.remove(7)) {
      weekDays.add(0);
    }
    boolean everyMonthDay = fields[2].startsWith("*") && monthDays.size() == 31;
    boolean everyWeekDay = fields[4].startsWith("*") && weekDays.size() == 7;
    String common = (months.size() == 12 ? "" : ";BYMONTH=" + join(months)) + ";BYHOUR="
        + join(hours) + ";BYMINUTE=" + join(minutes) + ";BYSECOND=0";
    String byMonthDay = ";BYMONTHDAY=" + join(monthDays);
    String byDay = ";BYDAY=" + weekDays.stream().map(DAYS::get).collect(Collectors.joining(","));
    if (everyMonthDay && everyWeekDay) {
      return List.of("FREQ=DAILY" + common);
    } else if (everyWeekDay) {
      return List.of("FREQ=DAILY" + byMonthDay + common);
    } else if (everyMonthDay) {
      return List.of("FREQ=DAILY" + byDay + common);
    }
    return List.of("FREQ=DAILY" + byMonthDay + common, "FREQ=DAILY" + byDay + common);
  }

  private static String join(TreeSet<Integer> values) {
    return values.stream().map(String::valueOf).collect(Collectors.joining(","));
  }

  private static TreeSet<Integer> values(
      String field, String name, int least, int most, List<String> names) {
    TreeSet<Integer> values = new TreeSet<>();
    for (String part : field.toLowerCase(Locale.ROOT).split(",", -1)) {
      String[] stepped = part.split("/", -1);
      int step = stepped.length == 2 ? number(stepped[1], name + " step", 1, most, List.of()) : 1;
      if (stepped.length > 2) {
        throw wrong(part, name, least, most);
      }
      List<Integer> range = new ArrayList<>();
      if (stepped[0].equals("*")) {
        range.add(least);
        range.add(names == DAY_NAMES ? 6 : most);
      } else {
        for (String end : stepped[0].split("-", -1)) {
          range.add(number(end, name, least, most, names));
        }
      }
      if (range.size() > 2 || (range.size() == 2 && range.get(0) > range.get(1))) {
        throw wrong(part, name, least, most);
      }
      int last = range.size() == 2 ? range.get(1) : stepped.length == 2 ? most : range.get(0);
      for (int v = range.get(0); v <= last; v += step) {
        values.add(v);
      }
    }
    return values;
  }

  private static int number(String text, String name, int least, int most, List<String> names) {
    int named = names.indexOf(text);
    if (named >= 0) {
      return named + (names == MONTH_NAMES ? 1 : 0);
    }
    if (text.matches("\\d{1,2}")) {
      int number = Integer.parseInt(text);
      if (number >= least && number <= most) {
        return number;
      }
    }
    throw wrong(text, name, least, most);
  }

  private static WrongValue wrong(String text, String name, int least, int most) {
    return new WrongValue(
        "has '" + text + "' as " + name + ", which goes from " + least + " to " + most);
  }
}
