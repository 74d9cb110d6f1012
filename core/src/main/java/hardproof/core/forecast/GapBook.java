package hardproof.core.forecast;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Times without a proof, as they begin and end in a forecast. */
final class GapBook {
  private final Instant asAt;
  private final List<Entry> all = new ArrayList<>();
  private final Map<Need, Entry> open = new HashMap<>();

  /** Resources whose drill found no room since they were last proven, by key. */
  private final Set<String> held = new HashSet<>();

  private static final class Entry {
    final Need need;
    final Instant from;
    final boolean lapsing;
    boolean noRoom;
    Instant until;

    Entry(Need need, Instant from, boolean lapsing, boolean noRoom) {
      this.need = need;
      this.from = from;
      this.lapsing = lapsing;
      this.noRoom = noRoom;
    }
  }

  GapBook(Instant asAt) {
    this.asAt = asAt;
  }

  void missing(Need need) {
    add(new Entry(need, asAt, false, false));
  }

  void lapsed(Need need, long at, boolean noRoom) {
    add(new Entry(need, Instant.ofEpochMilli(at), true, noRoom));
  }

  private void add(Entry entry) {
    all.add(entry);
    open.put(entry.need, entry);
  }

  /** The drill of a resource found no room. */
  void held(String resource) {
    held.add(resource);
  }

  boolean wasHeld(String resource) {
    return held.contains(resource);
  }

  void proven(Need need, long at) {
    Entry entry = open.remove(need);
    if (entry != null) {
      entry.until = Instant.ofEpochMilli(at);
    }
    held.remove(need.of.protector().key());
  }

  List<Forecast.Gap> gaps(Reasons reasons) {
    return all.stream()
        .map(e -> gap(e, reasons))
        .sorted(Comparator.comparing(Forecast.Gap::from)
            .thenComparing(Forecast.Gap::name)
            .thenComparing(Forecast.Gap::resource))
        .toList();
  }

  private Forecast.Gap gap(Entry e, Reasons reasons) {
    boolean noRoom =
        e.noRoom || (e.until == null && wasHeld(e.need.of.protector().key()));
    Reasons.Reason reason = reasons.of(e.need, e.from, noRoom);
    return new Forecast.Gap(
        e.need.of.resource().key(),
        e.need.of.resource().name(),
        e.from,
        e.lapsing,
        e.until,
        reason.why(),
        reason.sentence());
  }
}
