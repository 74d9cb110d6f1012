package hardproof.server.alerts;

import hardproof.core.alerts.AlertKind;
import hardproof.core.estate.Selector;
import hardproof.core.wording.Coded;
import hardproof.core.wording.Title;
import hardproof.core.wording.WrongValue;
import hardproof.server.delivery.MailDrop;
import hardproof.server.facts.SelectorJson;
import hardproof.server.outside.OutsideHosts;
import hardproof.server.people.Role;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * A watch as somebody asks for it.
 *
 * @param kinds codes of kinds; empty for all
 * @param selector as JSON; null for everything
 * @param recipient as {@link Watch} has it
 * @param afterMinutes 0 or more
 * @param repeatMinutes null for once; at least five
 * @param quietFrom time of day as 22:00; null where nothing is quiet, likewise {@code quietUntil}
 * @param zone that these are in; null for UTC
 */
record WatchDraft(
    String name,
    @Nullable List<AlertKind> kinds,
    @Nullable String selector,
    Watch.How how,
    String recipient,
    long afterMinutes,
    @Nullable Long repeatMinutes,
    @Nullable String quietFrom,
    @Nullable String quietUntil,
    @Nullable String zone,
    boolean active) {
  private static final long A_MONTH = 43_200;
  private static final long OFTEN = 5;

  static WatchDraft of(Watch w) {
    Watch.Quiet quiet = w.quiet();
    return new WatchDraft(
        w.name(),
        List.copyOf(w.kinds()),
        w.scope().equals(Selector.EVERYTHING) ? null : SelectorJson.write(w.scope()),
        w.how(),
        w.recipient(),
        w.after().toMinutes(),
        w.repeat() == null ? null : w.repeat().toMinutes(),
        quiet == null ? null : quiet.from().toString(),
        quiet == null ? null : quiet.until().toString(),
        quiet == null ? null : quiet.zone().getId(),
        w.active());
  }

  /**
   * @param id 0 for a new one
   * @param people whether somebody of that name can sign in
   * @throws WrongValue where something of it can't be
   */
  Watch watch(long id, OutsideHosts hosts, Predicate<String> people) {
    if (how == null || recipient == null || name == null) {
      throw new WrongValue("a watch has a name, says how it tells, and whom");
    }
    if (afterMinutes < 0 || afterMinutes > A_MONTH) {
      throw new WrongValue("how soon is 0 to " + A_MONTH + " minutes, not " + afterMinutes);
    }
    if (repeatMinutes != null && (repeatMinutes < OFTEN || repeatMinutes > A_MONTH)) {
      throw new WrongValue(
          "how often again is " + OFTEN + " to " + A_MONTH + " minutes, not " + repeatMinutes);
    }
    return new Watch(
        id,
        Title.of(name),
        new TreeSet<>(kinds == null ? List.of() : kinds),
        SelectorJson.asked(selector),
        how,
        recipient(hosts, people),
        Duration.ofMinutes(afterMinutes),
        repeatMinutes == null ? null : Duration.ofMinutes(repeatMinutes),
        quiet(),
        active);
  }

  private String recipient(OutsideHosts hosts, Predicate<String> people) {
    String to = recipient.strip();
    switch (how) {
      case BELL -> {
        if (to.startsWith(Watch.PERSON)) {
          String name = to.substring(Watch.PERSON.length());
          if (!people.test(name)) {
            throw new WrongValue("nobody can sign in as '" + name + "': look under People");
          }
        } else if (!to.equals(Watch.EVERYBODY)) {
          Coded.of(Role.class, to);
        }
      }
      case MAIL -> {
        if (!to.equals(Watch.OWNER)) {
          MailDrop.address(to);
        }
      }
      case WEBHOOK -> hosts.requireAllowed(to);
    }
    return to;
  }

  private Watch.@Nullable Quiet quiet() {
    if (quietFrom == null && quietUntil == null) {
      return null;
    }
    try {
      LocalTime from = LocalTime.parse(quietFrom == null ? "" : quietFrom);
      LocalTime until = LocalTime.parse(quietUntil == null ? "" : quietUntil);
      if (from.equals(until)) {
        throw new WrongValue("quiet from " + from + " until the same would be always");
      }
      return new Watch.Quiet(from, until, ZoneId.of(zone == null ? "UTC" : zone));
    } catch (DateTimeException e) {
      throw new WrongValue(
          "quiet hours are two times of day such as 22:00 and 06:30, in a zone such as Europe/Oslo");
    }
  }
}
