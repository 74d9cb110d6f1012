package hardproof.server.order;

import hardproof.core.estate.Kind;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.order.RecoveryMember;
import hardproof.core.order.RecoveryOutlook;
import hardproof.core.order.RecoverySchedule.Bar;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * In which order a workload comes back, and how soon. Times are milliseconds from the begin.
 *
 * @param sentence whether and when, beside what is allowed, and what sets the time
 * @param atOnce restores that go on at once
 * @param totalMs when all that can be is back
 * @param slowTotalMs the same where each takes as long as it does at most in 19 of 20
 * @param bars in the order in which they begin; last those that can't come back
 * @param speedUps what saves most first
 * @param notKnown keys that something needs and nobody knows
 */
record OrderView(
    String sentence,
    int atOnce,
    long totalMs,
    long slowTotalMs,
    long rtoMs,
    List<OrderBar> bars,
    List<SpeedUpView> speedUps,
    List<String> notKnown) {

  /** A change that was tried: the sentence says what it saves. */
  record SpeedUpView(String sentence, long savedMs, long totalMs) {}

  /**
   * A member.
   *
   * @param workload key of the workload that it belongs to
   * @param workloadName its name; null where it belongs to none that is known
   * @param beginMs null for one that can't come back, as {@code endMs}
   * @param pointAt data time of the point that brings it back; null where there is none
   * @param store name of the store that it is read from; null where it comes with another
   * @param with name of the resource whose image brings it back; null where its own points do
   * @param estimate how long it takes alone and how that is known; null where it is not
   * @param critical whether it sets the time
   * @param needs names of what must be up before it
   * @param room whether it waits for room before it begins, rather than for what it needs
   * @param never why it can't come back; null where it can
   */
  record OrderBar(
      String resource,
      String name,
      Kind kind,
      @Nullable String workload,
      @Nullable String workloadName,
      @Nullable Long beginMs,
      @Nullable Long endMs,
      @Nullable Instant pointAt,
      @Nullable String store,
      @Nullable String with,
      @Nullable String estimate,
      boolean critical,
      List<String> needs,
      boolean room,
      @Nullable String never) {}

  static OrderView of(Estate estate, RecoveryOutlook outlook, int atOnce) {
    return new OrderView(
        outlook.sentence(),
        atOnce,
        outlook.total(),
        outlook.slowTotal(),
        outlook.rto().toMillis(),
        outlook.order().members().stream()
            .map(m -> bar(estate, outlook, m))
            .sorted(Comparator.comparing(
                    OrderBar::beginMs, Comparator.nullsLast(Comparator.naturalOrder()))
                .thenComparing(OrderBar::endMs, Comparator.nullsLast(Comparator.naturalOrder())))
            .toList(),
        outlook.speedUps().stream()
            .map(s -> new SpeedUpView(outlook.words(s), s.saved(), s.total()))
            .toList(),
        outlook.order().notKnown());
  }

  private static OrderBar bar(Estate estate, RecoveryOutlook outlook, RecoveryMember m) {
    String key = m.resource().key();
    Bar bar = outlook.bar(key);
    Workload workload = estate.workload(m.resource().workload());
    return new OrderBar(
        key,
        m.resource().name(),
        m.resource().kind(),
        m.resource().workload(),
        workload == null ? null : workload.name(),
        bar == null ? null : bar.begin(),
        bar == null ? null : bar.end(),
        m.point() == null ? null : m.point().dataTime(),
        m.store() == null ? null : estate.storeName(m.store()),
        m.byItself() ? null : m.with().name(),
        m.estimate() == null ? null : m.estimate().words(),
        outlook.path().contains(key),
        m.needs().stream()
            .map(n -> estate.resource(n) == null ? n : estate.resource(n).name())
            .toList(),
        bar != null && bar.room(),
        outlook.never().get(key));
  }
}
