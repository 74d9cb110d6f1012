package hardproof.core.forecast;

import hardproof.core.estate.Resource;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.core.schedule.HoursOfDay;
import hardproof.core.schedule.Recurrence;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What a programme that drills as needed drills in a night: what would lapse soon, the soonest first; then what is not
 * proven; last what failed when it was drilled, since it is most likely to fail again.
 */
public final class Renewals {
  private static final Comparator<Need> PRESSING = Comparator.comparingInt(
          (Need n) -> n.proven() ? 0 : n.failedLast() ? 2 : 1)
      .thenComparingLong(n -> n.proven() ? n.lapses : 0)
      .thenComparingLong(n -> n.periodMs);

  private static final Comparator<Wanted> IN_TURN = Comparator.comparing(Wanted::need, PRESSING)
      .thenComparing(w -> w.offer().resource().key());

  private Renewals() {}

  /**
   * What is drilled in a night.
   *
   * @param leftOut keys of those that are due too, for which the night has no room
   */
  public record Tonight(HoursOfDay.Open night, List<Chosen> chosen, List<String> leftOut) {}

  /**
   * A resource that is drilled.
   *
   * @param neededBy when its proof lapses; null where there is none
   */
  public record Chosen(Resource resource, @Nullable Instant neededBy) {}

  private record Wanted(Need need, Offer offer) {}

  /** The night that is open at an instant, or else the next, by the hours of a programme. */
  public static HoursOfDay.Open night(Capacity capacity, ProgrammeTerms programme, Instant at) {
    HoursOfDay own = programme.timing().hours();
    return (own == null ? capacity : capacity.with(own)).night(at);
  }

  /** The first night that opens at or after an instant. */
  static HoursOfDay.Open nightFrom(Capacity capacity, ProgrammeTerms programme, Instant at) {
    HoursOfDay.Open night = night(capacity, programme, at);
    return night.opens().isBefore(at) ? night(capacity, programme, night.closes()) : night;
  }

  /** When a programme that drills as needed looks what is due: whenever its hours begin. */
  public static Recurrence openings(Capacity capacity, ProgrammeTerms programme) {
    return after ->
        Optional.of(nightFrom(capacity, programme, after.plusMillis(1)).opens());
  }

  static Tonight choose(
      Instant now,
      HoursOfDay.Open night,
      Capacity capacity,
      ProgrammeTerms programme,
      List<Prospect> offers) {
    long closes = night.closes().toEpochMilli();
    List<Wanted> due = new ArrayList<>();
    for (Prospect prospect : offers) {
      Need need = prospect.now().busy ? null : due(prospect, closes);
      if (need != null) {
        due.add(new Wanted(need, prospect.offer()));
      }
    }
    due.sort(IN_TURN);
    List<Chosen> chosen = new ArrayList<>();
    List<String> leftOut = new ArrayList<>();
    Room room = new Room(now, night, capacity, programme);
    for (Wanted wanted : due) {
      if (room.takes(wanted.offer())) {
        Long by = wanted.need().neededBy();
        chosen.add(
            new Chosen(wanted.offer().resource(), by == null ? null : Instant.ofEpochMilli(by)));
      } else {
        leftOut.add(wanted.offer().resource().key());
      }
    }
    return new Tonight(night, chosen, leftOut);
  }

  /** The most pressing of what a drill would prove, where it is due; null where nothing is. */
  private static @Nullable Need due(Prospect prospect, long closes) {
    Need first = null;
    for (Need need : prospect.now().needs) {
      boolean due = !need.proven() || need.soon() <= closes;
      if (due && prospect.offer().proves(need.demanded) && (first == null || before(need, first))) {
        first = need;
      }
    }
    return first;
  }

  private static boolean before(Need a, Need b) {
    return PRESSING.compare(a, b) < 0;
  }

  /** What is left of a night. */
  private static final class Room {
    private final long lengthMs;
    private final int atOnce;
    private final boolean ends;
    private final long nightBytes;
    private long takenMs;
    private long takenBytes;

    Room(Instant now, HoursOfDay.Open night, Capacity capacity, ProgrammeTerms programme) {
      Instant begin = now.isAfter(night.opens()) ? now : night.opens();
      this.lengthMs = Math.max(0, night.closes().toEpochMilli() - begin.toEpochMilli());
      // Where all day is open, midnight ends nothing: what takes longer goes on.
      this.ends = capacity.hours() != null || programme.timing().hours() != null;
      Integer own = programme.limits().atOnce();
      this.atOnce = own == null ? capacity.atOnce() : Math.min(own, capacity.atOnce());
      Long bytes = programme.limits().nightBytes();
      this.nightBytes = bytes == null ? Long.MAX_VALUE : bytes;
    }

    boolean takes(Offer offer) {
      long ms = ends ? offer.takes().toMillis() : Math.min(offer.takes().toMillis(), lengthMs);
      if (ms > lengthMs
          || takenMs + ms > lengthMs * atOnce
          || offer.readBytes() > nightBytes - takenBytes) {
        return false;
      }
      takenMs += ms;
      takenBytes += offer.readBytes();
      return true;
    }
  }
}
