package hardproof.core.criteria;

import hardproof.core.estate.Policy;
import hardproof.core.retention.Retention;
import hardproof.core.retention.Slot;
import hardproof.core.wording.Wording;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Comparator;
import java.util.List;
import java.util.stream.IntStream;

/** Is what the policy promises of days, weeks, months and years there? */
final class HistorySlots extends ShippedCriterion {
  private static final int NAMED = 5;

  HistorySlots() {
    super(
        Group.HISTORY,
        "Slots held",
        "Every day, week, month and year that the policy promises holds a usable point.",
        List.of("NIST CP-9", "ISO A.8.13"));
  }

  /** What a policy promises as at the instant. */
  private record Promised(Policy policy, List<Slot> slots) {}

  @Override
  Judgement judge(Subject s) {
    long[] dataTimes = usableDataTimes(s);
    Promised most = mostPromised(s, dataTimes);
    if (most == null) {
      return Judgement.notAsked("no policy of it promises a day, week, month or year");
    }
    Instant since = s.resource().firstSeen();
    List<Slot> missing = Retention.missing(most.slots(), dataTimes, since);
    return since == null || most.slots().get(0).from().isBefore(since)
        ? tooYoung(s, most, missing)
        : judge(s, most, missing);
  }

  private static long[] usableDataTimes(Subject s) {
    return IntStream.range(0, s.set().size())
        .filter(s::usable)
        .mapToLong(s.set()::dataTime)
        .toArray();
  }

  private static Promised mostPromised(Subject s, long[] dataTimes) {
    return s.policies().stream()
        .map(p -> new Promised(p, p.retention().slots(s.asAt(), s.standard().zone(), dataTimes)))
        .filter(p -> !p.slots().isEmpty())
        .max(Comparator.comparing(p -> p.slots().size()))
        .orElse(null);
  }

  private static Judgement tooYoung(Subject s, Promised of, List<Slot> missing) {
    Instant since = s.resource().firstSeen();
    if (since == null) {
      return sinceUnknown(of);
    }
    long asked =
        of.slots().stream().filter(slot -> !slot.from().isBefore(since)).count();
    return Judgement.unknown(
        "not enough history: " + of.policy().name() + " promises "
            + Wording.count(of.slots().size(), "slot", "slots") + " back to "
            + of.slots().get(0).label() + ", and it was first seen on "
            + Wording.time(since, s.asAt()) + "; of the " + asked + " since then "
            + (asked - missing.size()) + " are held",
        "slots before first seen can't be asked for");
  }

  private static Judgement sinceUnknown(Promised of) {
    return Judgement.unknown(
        "since when the resource is there is not known, so which of the "
            + of.slots().size() + " slots it must hold is not either",
        "slots before first seen can't be asked for");
  }

  private static Judgement judge(Subject s, Promised of, List<Slot> missing) {
    int promised = of.slots().size();
    int held = promised - missing.size();
    String retention = of.policy().retention().words();
    return Judgement.of(
        OutcomeState.metIf(missing.isEmpty()),
        Measure.count(held),
        Measure.count(promised),
        sentence(of, missing, promised, retention),
        "slots with at least one usable data time = " + held + " of " + promised + " (" + retention
            + ", " + calendar(s.standard().zone()) + ")",
        List.of(new FactRef("policies", of.policy().key())));
  }

  private static String sentence(Promised of, List<Slot> missing, int promised, String retention) {
    return missing.isEmpty()
        ? "each of the " + promised + " slots that " + of.policy().name() + " promises ("
            + retention + ") holds a usable point"
        : missing.size() + " of the " + promised + " slots that " + of.policy().name()
            + " promises hold no usable point: " + labels(missing);
  }

  /** Days, weeks and months begin by it. */
  private static String calendar(ZoneId zone) {
    return zone.normalized().equals(ZoneOffset.UTC) ? "in UTC" : "by the calendar of " + zone;
  }

  private static String labels(List<Slot> missing) {
    int shown = Math.min(NAMED, missing.size());
    // The newest gaps are the ones that can still be explained.
    List<String> labels = missing.subList(missing.size() - shown, missing.size()).stream()
        .map(Slot::label)
        .toList();
    return Wording.list(labels)
        + (missing.size() > shown ? " and " + (missing.size() - shown) + " before" : "");
  }
}
