package hardproof.server.programmes;

import hardproof.core.feeds.Values;
import hardproof.core.programmes.Capacity;
import hardproof.core.schedule.HoursOfDay;
import hardproof.core.wording.WrongValue;
import jakarta.validation.constraints.NotBlank;
import java.time.DateTimeException;
import java.time.ZoneId;
import org.jspecify.annotations.Nullable;

/**
 * What there is to drill with, as people write it.
 *
 * @param hours such as 22:00-06:00; empty for all day
 * @param sandboxBytes such as 2 TB; empty where only the disk bounds it
 */
record CapacityDraft(
    @Nullable String hours,
    @NotBlank String zone,
    int atOnce,
    @Nullable Integer atOncePerStore,
    @Nullable String sandboxBytes,
    @Nullable Double pricePerDrill,
    @Nullable Double pricePerGbDay) {
  static CapacityDraft of(Capacity c) {
    return new CapacityDraft(
        c.hours() == null ? null : c.hours().text(),
        c.zone().getId(),
        c.atOnce(),
        c.atOncePerStore(),
        c.sandboxBytes() == null ? null : c.sandboxBytes().toString(),
        c.prices().perDrill(),
        c.prices().perGbDay());
  }

  /**
   * @throws WrongValue saying what of it can't be
   */
  Capacity capacity() {
    return new Capacity(
        hours == null || hours.isBlank() ? null : readHours(),
        readZone(),
        atOnce,
        atOncePerStore,
        sandboxBytes == null || sandboxBytes.isBlank() ? null : bytes(),
        new Capacity.Prices(
            pricePerDrill == null ? 0 : pricePerDrill, pricePerGbDay == null ? 0 : pricePerGbDay));
  }

  private HoursOfDay readHours() {
    try {
      return HoursOfDay.parse(hours);
    } catch (WrongValue e) {
      throw new WrongValue("'" + hours + "' " + e.getMessage(), e);
    }
  }

  private long bytes() {
    try {
      return Values.size(sandboxBytes);
    } catch (WrongValue e) {
      throw new WrongValue("the room for sandboxes: '" + sandboxBytes + "' " + e.getMessage(), e);
    }
  }

  private ZoneId readZone() {
    try {
      return ZoneId.of(zone.strip());
    } catch (DateTimeException e) {
      throw new WrongValue("'" + zone + "' is no time zone; write it as Europe/Oslo or UTC", e);
    }
  }
}
