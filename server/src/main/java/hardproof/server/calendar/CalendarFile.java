package hardproof.server.calendar;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.util.HashSet;
import java.util.Set;
import net.fortuna.ical4j.model.Calendar;
import net.fortuna.ical4j.model.TimeZoneRegistry;
import net.fortuna.ical4j.model.TimeZoneRegistryFactory;
import net.fortuna.ical4j.model.component.CalendarComponent;
import net.fortuna.ical4j.model.component.VEvent;
import net.fortuna.ical4j.model.component.VToDo;
import net.fortuna.ical4j.model.property.Description;
import net.fortuna.ical4j.model.property.DtEnd;
import net.fortuna.ical4j.model.property.DtStamp;
import net.fortuna.ical4j.model.property.DtStart;
import net.fortuna.ical4j.model.property.ProdId;
import net.fortuna.ical4j.model.property.RRule;
import net.fortuna.ical4j.model.property.Summary;
import net.fortuna.ical4j.model.property.Uid;
import net.fortuna.ical4j.model.property.XProperty;
import net.fortuna.ical4j.model.property.immutable.ImmutableVersion;
import org.jspecify.annotations.Nullable;

/** A calendar as RFC 5545 writes it. The same contents always give the same text. */
public final class CalendarFile {
  private static final int LINE_OCTETS = 75;

  private final Calendar calendar = new Calendar();
  private final Instant made;
  private final Set<String> zones = new HashSet<>();
  private final TimeZoneRegistry registry =
      TimeZoneRegistryFactory.getInstance().createRegistry();

  /**
   * @param made stands as the time of making in each entry
   */
  public CalendarFile(String name, Instant made) {
    this.made = made;
    calendar.add(new ProdId("-//Hard Proof//EN"));
    calendar.add(ImmutableVersion.VERSION_2_0);
    calendar.add(new XProperty("X-WR-CALNAME", name));
  }

  /**
   * Something at an instant.
   *
   * @param lasts null for a moment
   */
  public void event(String uid, String summary, String text, Instant at, @Nullable Duration lasts) {
    VEvent event = new VEvent(false);
    describe(event, uid, summary, text);
    event.add(new DtStart<>(at));
    if (lasts != null) {
      event.add(new DtEnd<>(at.plus(lasts)));
    }
    calendar.add(event);
  }

  /**
   * Something that comes again by a rule.
   *
   * @param first the first time it comes
   */
  public void recurring(
      String uid, String summary, String text, Instant first, ZoneId zone, String rule) {
    VEvent event = new VEvent(false);
    describe(event, uid, summary, text);
    boolean utc = zone.normalized().equals(ZoneOffset.UTC);
    if (utc) {
      event.add(new DtStart<>(first));
    } else {
      ZonedDateTime local = first.atZone(zone);
      event.add(new DtStart<>(local));
      if (zones.add(zone.getId()) && registry.getTimeZone(zone.getId()) != null) {
        calendar.add(registry.getTimeZone(zone.getId()).getVTimeZone());
      }
    }
    event.add(new RRule<>(rule));
    calendar.add(event);
  }

  /** Something to be done at no stated time. */
  public void todo(String uid, String summary, String text) {
    VToDo todo = new VToDo(false);
    describe(todo, uid, summary, text);
    calendar.add(todo);
  }

  private void describe(CalendarComponent component, String uid, String summary, String text) {
    component.add(new Uid(uid.replaceAll("[^A-Za-z0-9.-]+", "-") + "@hard-proof"));
    component.add(new DtStamp(made));
    component.add(new Summary(summary));
    component.add(new Description(text));
  }

  /** The whole, its lines folded by octets as section 3.1 asks, whatever script they are in. */
  public String text() {
    StringBuilder text = new StringBuilder();
    // The library folds by characters; so its lines are put together first.
    String whole = calendar.toString().replace("\r\n ", "").replace("\r\n\t", "");
    for (String line : whole.split("\r\n")) {
      fold(line, text);
    }
    return text.toString();
  }

  private static void fold(String line, StringBuilder to) {
    int octets = 0;
    for (int i = 0; i < line.length(); ) {
      int point = line.codePointAt(i);
      String one = Character.toString(point);
      int more = one.getBytes(StandardCharsets.UTF_8).length;
      if (octets + more > LINE_OCTETS) {
        to.append("\r\n ");
        octets = 1;
      }
      to.append(one);
      octets += more;
      i += one.length();
    }
    to.append("\r\n");
  }
}
