package hardproof.core.forecast;

import hardproof.core.programmes.Admission;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.core.programmes.QueuedDrill;
import hardproof.core.schedule.HoursOfDay;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.PriorityQueue;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** Lets the coming nights pass, event by event, by the rules that hold for the real ones. */
final class Simulation {
  private final List<ProgrammeTerms> programmes;
  private final Map<String, List<Offer>> offers;
  private final Map<String, List<Need>> needs;
  private final Capacity capacity;
  private final Instant from;
  private final long until;

  private final PriorityQueue<Event> events = new PriorityQueue<>();
  private final TreeSet<QueuedDrill> waiting = new TreeSet<>(Admission.IN_TURN);
  private final Map<String, Waiting> waitingById = new HashMap<>();
  private final Map<String, Prospect.Now> resources = new HashMap<>();
  private final Map<String, List<Prospect>> prospects;
  private final Running running;
  private final Admission admission;
  private final SpentSoFar spent = new SpentSoFar();
  private final NightBook nights;
  private final GapBook gaps;
  private final List<Forecast.Start> starts = new ArrayList<>();
  private final Map<String, Map<String, Offer>> byResource = new HashMap<>();
  private long now;
  private int queued;

  private record Waiting(Offer offer, long notAfter) {}

  /** Something that happens at an instant; what comes first of the same instant goes first. */
  private record Event(long at, int order, Runnable what) implements Comparable<Event> {
    @Override
    public int compareTo(Event other) {
      return at != other.at ? Long.compare(at, other.at) : Integer.compare(order, other.order);
    }
  }

  private static final int LAPSE = 0;
  private static final int MISSED = 1;
  private static final int BEGIN = 2;

  Simulation(
      List<ProgrammeTerms> programmes,
      Map<String, List<Offer>> offers,
      Map<String, List<Need>> needs,
      Capacity capacity,
      Map<String, Long> throughput,
      Instant from,
      Instant until) {
    this.programmes = programmes;
    this.offers = offers;
    this.needs = needs;
    this.capacity = capacity;
    this.from = from;
    this.now = from.toEpochMilli();
    this.until = until.toEpochMilli();
    this.running = new Running(throughput);
    this.admission = new Admission(capacity, byKey(programmes));
    this.nights = new NightBook(capacity, from, until);
    this.gaps = new GapBook(from);
    this.prospects = Prospect.of(offers, needs, resources);
  }

  private static Map<String, ProgrammeTerms> byKey(List<ProgrammeTerms> programmes) {
    Map<String, ProgrammeTerms> byKey = new HashMap<>();
    programmes.forEach(p -> byKey.put(p.key(), p));
    return byKey;
  }

  Forecast run() {
    needs.values().forEach(list -> list.forEach(this::begin));
    programmes.forEach(this::schedule);
    while (true) {
      long next = Math.min(events.isEmpty() ? Long.MAX_VALUE : events.peek().at(), ends());
      if (next > until) {
        break;
      }
      pass(next);
    }
    Reasons reasons = new Reasons(offers, capacity, from);
    return new Forecast(
        from, Instant.ofEpochMilli(until), nights.nights(), gaps.gaps(reasons), starts);
  }

  private long ends() {
    long in = running.nextEndsIn();
    return in == Long.MAX_VALUE ? in : now + in;
  }

  private void pass(long next) {
    nights.busy(now, next, running.size());
    running.pass(next - now);
    now = next;
    boolean look = false;
    for (Offer ended : running.ended()) {
      proven(ended);
      look = true;
    }
    while (!events.isEmpty() && events.peek().at() <= now) {
      Event event = events.poll();
      event.what().run();
      look |= event.order() == BEGIN;
    }
    if (look) {
      admit();
    }
  }

  private void begin(Need need) {
    if (need.proven()) {
      lapsesLater(need);
    } else {
      gaps.missing(need);
    }
  }

  private void lapsesLater(Need need) {
    long at = need.lapses;
    if (at <= until) {
      // One that ends at the very instant still counts: it lapses after it.
      events.add(new Event(at + 1, LAPSE, () -> lapse(need, at)));
    }
  }

  private void lapse(Need need, long at) {
    if (need.lapses == at) {
      need.lapses = Need.NONE;
      gaps.lapsed(need, at, waitsFor(need));
    }
  }

  /** Whether a drill that would prove it is in the queue, or found no room in it. */
  private boolean waitsFor(Need need) {
    Prospect.Now now = resources.get(need.of.protector().key());
    return (now != null && now.busy) || gaps.wasHeld(need.of.protector().key());
  }

  private void proven(Offer offer) {
    if (!offer.foretold()) {
      return;
    }
    resources.get(offer.resource().key()).busy = false;
    for (Need need : needs.getOrDefault(offer.resource().key(), List.of())) {
      if (offer.proves(need.demanded)) {
        gaps.proven(need, now);
        need.lapses = now + need.periodMs;
        lapsesLater(need);
      }
    }
  }

  private void schedule(ProgrammeTerms programme) {
    if (programme.asNeeded()) {
      nextNight(programme, from);
    } else {
      nextStart(programme, from);
      reopen(programme, from);
    }
  }

  private void nextStart(ProgrammeTerms programme, Instant after) {
    Optional<Instant> due = programme.timing().rule().nextAfter(after);
    due.filter(d -> d.toEpochMilli() <= until)
        .ifPresent(d -> events.add(new Event(d.toEpochMilli(), BEGIN, () -> {
          long notAfter = d.plus(programme.timing().startWindow()).toEpochMilli();
          drilled(programme).forEach(o -> queue(o, mostPressing(o), notAfter));
          nextStart(programme, d);
        })));
  }

  /** Of a sample nobody knows before what it draws; what it takes is that of as many, spread over all. */
  private List<Offer> drilled(ProgrammeTerms programme) {
    List<Offer> all = offers.getOrDefault(programme.key(), List.of());
    Integer sample = programme.point().sample();
    if (sample == null || all.isEmpty()) {
      return all;
    }
    return IntStream.range(0, sample)
        .mapToObj(i -> all.get((int) ((long) i * all.size() / sample)))
        .toList();
  }

  /** What waits for its hours is looked at when they begin. */
  private void reopen(ProgrammeTerms programme, Instant after) {
    HoursOfDay.Open night = Renewals.night(capacity, programme, after);
    events.add(new Event(
        Math.max(night.opens().toEpochMilli(), now),
        BEGIN,
        () -> reopen(programme, night.closes())));
  }

  private void nextNight(ProgrammeTerms programme, Instant after) {
    HoursOfDay.Open night = Renewals.nightFrom(capacity, programme, after);
    events.add(new Event(night.opens().toEpochMilli(), BEGIN, () -> {
      Renewals.Tonight tonight = Renewals.choose(
          Instant.ofEpochMilli(now),
          night,
          capacity,
          programme,
          prospects.getOrDefault(programme.key(), List.of()));
      tonight
          .chosen()
          .forEach(c -> queue(
              offer(programme, c.resource().key()), c.neededBy(), night.closes().toEpochMilli()));
      tonight.leftOut().forEach(gaps::held);
      nextNight(programme, night.closes());
    }));
  }

  private Offer offer(ProgrammeTerms programme, String resource) {
    return byResource
        .computeIfAbsent(
            programme.key(),
            key -> offers.get(key).stream()
                .collect(Collectors.toMap(o -> o.resource().key(), o -> o)))
        .get(resource);
  }

  private Instant mostPressing(Offer offer) {
    long first = Long.MAX_VALUE;
    for (Need need : needs.getOrDefault(offer.resource().key(), List.of())) {
      if (need.proven() && offer.proves(need.demanded)) {
        first = Math.min(first, need.lapses);
      }
    }
    return first == Long.MAX_VALUE ? null : Instant.ofEpochMilli(first);
  }

  private void queue(Offer offer, Instant neededBy, long notAfter) {
    if (offer.whyNot() != null) {
      return;
    }
    String id = String.format(java.util.Locale.ROOT, "%012d", queued++);
    QueuedDrill drill = new QueuedDrill(
        id,
        offer.programme().key(),
        Instant.ofEpochMilli(now),
        neededBy,
        offer.store(),
        offer.takes(),
        offer.readBytes(),
        offer.spaceBytes(),
        offer.cost(capacity));
    waiting.add(drill);
    waitingById.put(id, new Waiting(offer, notAfter));
    if (offer.foretold()) {
      resources.get(offer.resource().key()).busy = true;
    }
    events.add(new Event(notAfter + 1, MISSED, () -> missed(drill)));
  }

  private void missed(QueuedDrill drill) {
    if (waiting.remove(drill)) {
      Offer offer = waitingById.remove(drill.id()).offer();
      if (offer.foretold()) {
        resources.get(offer.resource().key()).busy = false;
        gaps.held(offer.resource().key());
      }
    }
  }

  private void admit() {
    Instant at = Instant.ofEpochMilli(now);
    while (!waiting.isEmpty() && running.size() < capacity.atOnce()) {
      Optional<QueuedDrill> next = admission.next(at, waiting, running.drills(), spent);
      if (next.isEmpty()) {
        return;
      }
      start(next.get(), at);
    }
  }

  private void start(QueuedDrill drill, Instant at) {
    waiting.remove(drill);
    Offer offer = waitingById.remove(drill.id()).offer();
    running.begin(drill, offer);
    spent.begun(drill, at);
    nights.begun(now, drill.readBytes());
    if (offer.foretold()) {
      starts.add(new Forecast.Start(offer.resource().key(), drill.programme(), at));
    }
  }
}
