package hardproof.core.survival;

import hardproof.core.ladder.Rung;
import hardproof.core.losses.Loss;
import hardproof.core.order.RecoverySchedule;
import hardproof.core.order.RecoverySteps;
import hardproof.core.recovery.TimeEstimate;
import hardproof.core.survival.Aftermath.Line;
import hardproof.core.survival.Survival.Guarded;
import hardproof.core.survival.Survival.Member;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** One loss being tried: what each member has left, and all of that put through one schedule. */
final class Trial {
  private final Survival survival;
  private final Loss loss;
  private final int atOnce;
  private final Protection.Blow blow;
  private final Map<String, Left> left = new HashMap<>();
  private RecoverySteps steps;
  private RecoverySchedule schedule;

  /** Whether the time of a step and of all that it needs is known, by its place. */
  private boolean[] timed;

  private long bytes;

  /**
   * Of a member.
   *
   * @param row the newest point that is left; −1 where none is
   * @param oldest the oldest such
   * @param store it is read from; −1 where that is not known or it comes with another
   */
  private record Left(
      int row,
      int oldest,
      int store,
      @Nullable TimeEstimate time,
      @Nullable Rung rung) {}

  Trial(Survival survival, Loss loss, int atOnce) {
    this.survival = survival;
    this.loss = loss;
    this.atOnce = atOnce;
    this.blow = survival.blow(loss);
  }

  Aftermath aftermath() {
    for (Member member : survival.members()) {
      left.put(member.resource().key(), left(member));
    }
    SurvivalSteps made = new SurvivalSteps(survival);
    for (Member member : survival.members()) {
      Left one = left.get(member.resource().key());
      made.add(member, one.row() >= 0, one.store(), one.time());
      bytes += one.time() == null ? 0 : one.time().bytes();
    }
    steps = made.steps();
    schedule = RecoverySchedule.of(steps, made.limits(atOnce));
    timed = timed();
    List<Line> lines = new ArrayList<>();
    Map<Integer, Long> tiers = new TreeMap<>();
    for (Guarded guarded : survival.workloads()) {
      Line line = line(guarded);
      lines.add(line);
      if (line.back() != null) {
        tiers.merge(guarded.workload().heldTo(), line.back(), Math::max);
      }
    }
    lines.sort(Comparator.comparing(Line::fate)
        .thenComparing(l -> l.workload().heldTo())
        .thenComparing(l -> l.workload().name())
        .thenComparing(l -> l.workload().key()));
    return new Aftermath(loss, List.copyOf(lines), bytes, tiers);
  }

  private boolean[] timed() {
    boolean[] own = new boolean[steps.size()];
    Arrays.fill(own, true);
    for (Member member : survival.members()) {
      own[steps.place(member.resource().key())] =
          !member.byItself() || left.get(member.resource().key()).time() != null;
    }
    return steps.withAllItNeeds(own);
  }

  private Left left(Member member) {
    int row = member.protection().newestLeft(blow);
    if (row < 0) {
      return new Left(-1, -1, -1, null, null);
    }
    long[] stores = member.protection().storesLeft(row, blow);
    int best = -1;
    TimeEstimate time = null;
    for (int i = 0; i < member.times().length; i++) {
      TimeEstimate from = member.times()[i];
      if (StoreBits.has(stores, i)
          && (best < 0
              || from != null && (time == null || from.median().compareTo(time.median()) < 0))) {
        best = i;
        time = from;
      }
    }
    return new Left(
        row,
        member.protection().oldestLeft(blow),
        member.byItself() ? best : -1,
        time,
        member.protection().shownFrom(stores));
  }

  private Line line(Guarded guarded) {
    Duration rpo = null;
    Duration rto = null;
    Duration exposure = Duration.ZERO;
    Duration reach = null;
    Rung rung = Rung.REHEARSED;
    Rung demanded = guarded.result().demanded();
    Long back = 0L;
    Fate fate = Fate.SURVIVES;
    String sentence = null;
    for (Member member : guarded.members()) {
      Left one = left.get(member.resource().key());
      rpo = shorter(rpo, member.result().demand().rpo());
      rto = shorter(rto, member.result().demand().rto());
      Told told = told(member, one);
      if (sentence == null || told.fate().compareTo(fate) < 0) {
        sentence = told.sentence();
        fate = told.fate();
      }
      exposure =
          one.row() < 0 || exposure == null ? null : longer(exposure, age(member, one.row()));
      reach = one.row() < 0 ? reach : shorter(reach, age(member, one.oldest()));
      rung = one.rung() == null || rung == null ? null : Rung.lower(rung, one.rung());
      Long end = end(member);
      back = end == null || back == null ? null : Long.valueOf(Math.max(back, end));
    }
    if (!guarded.members().stream().allMatch(Member::hasAny)) {
      fate = Fate.HAD_NOTHING;
      sentence = "a member has no usable point as it is";
    }
    return new Line(
        guarded.workload(),
        fate,
        sentence,
        exposure,
        exposure == null ? null : reach,
        rpo,
        back,
        rto,
        rung,
        demanded);
  }

  private record Told(Fate fate, String sentence) {}

  private Told told(Member member, Left one) {
    String name = member.resource().name();
    if (one.row() < 0) {
      boolean sealed = member.hasAny() && member.protection().sealed(blow);
      return new Told(
          Fate.LOST,
          "nothing is left of " + name
              + (sealed ? " that can be opened: its keys are lost too" : ""));
    }
    Duration age = age(member, one.row());
    Duration rpo = member.result().demand().rpo();
    if (schedule.bar(steps.place(member.resource().key())) == null) {
      return new Told(Fate.LOST, name + " needs what can't be brought back");
    }
    if (member.ageAsTold(one.row()).compareTo(rpo) > 0) {
      return new Told(
          Fate.LATE,
          name + " goes back " + Wording.duration(age) + ", RPO " + Wording.duration(rpo));
    }
    if (age.compareTo(rpo) > 0) {
      return new Told(
          Fate.NOT_KNOWN,
          name + " goes back " + Wording.duration(age) + " by what was told until "
              + Wording.time(member.result().told().horizon(), survival.estate().asAt()) + ", RPO "
              + Wording.duration(rpo));
    }
    Long end = end(member);
    Duration rto = member.result().demand().rto();
    if (end == null) {
      return new Told(Fate.NOT_KNOWN, "how long it takes until " + name + " is back is not known");
    }
    if (end > rto.toMillis()) {
      return new Told(
          Fate.LATE,
          name + " is back after " + Wording.duration(Duration.ofMillis(end)) + ", RTO "
              + Wording.duration(rto));
    }
    if (loss.takesRestorers(member.with())) {
      return new Told(
          Fate.NOT_KNOWN,
          "nobody is left of those who can bring " + name + " back: "
              + Wording.list(member.with().restoring().restorers()));
    }
    return new Told(
        Fate.SURVIVES,
        "back after " + Wording.duration(Duration.ofMillis(end)) + ", with data of "
            + Wording.duration(age) + " ago");
  }

  /** When a member is back; null where it is not, or something on the way takes a time that is not known. */
  private @Nullable Long end(Member member) {
    int place = steps.place(member.resource().key());
    RecoverySchedule.Bar bar = schedule.bar(place);
    return bar == null || !timed[place] ? null : bar.end();
  }

  private Duration age(Member member, int row) {
    return Duration.ofMillis(
        survival.estate().asAt().toEpochMilli() - member.protection().dataTime(row));
  }

  private static Duration shorter(@Nullable Duration a, Duration b) {
    return a == null || b.compareTo(a) < 0 ? b : a;
  }

  private static Duration longer(Duration a, Duration b) {
    return a.compareTo(b) < 0 ? b : a;
  }
}
