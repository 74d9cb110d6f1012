package hardproof.server.rehearsals;

import hardproof.core.drills.Method;
import hardproof.core.facts.Estate;
import hardproof.core.order.RecoveryMember;
import hardproof.core.rehearsals.RehearsalPlan;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a rehearsal would bring back and take. Times are milliseconds from its begin.
 *
 * @param sentence whether and when all would be back, beside what is allowed
 * @param spreadMs between the oldest and the newest data that comes back; null where nothing does
 * @param besides what members need besides their data
 * @param refusal absent when it can be started
 */
record PlannedRehearsal(
    String workload,
    Instant moment,
    String loss,
    int atOnce,
    String sentence,
    long totalMs,
    long rtoMs,
    @Nullable Long spreadMs,
    long readBytes,
    long spaceBytes,
    long freeBytes,
    List<PlannedMember> members,
    List<String> notes,
    List<String> besides,
    @Nullable String refusal) {
  /**
   * A member; {@code beginMs} and {@code endMs} are null for one that can't begin.
   *
   * @param method null where it comes with another, or can't be drilled
   * @param asked how many checks are asked of it
   */
  record PlannedMember(
      String resource,
      String name,
      @Nullable Long beginMs,
      @Nullable Long endMs,
      @Nullable Instant pointAt,
      @Nullable String store,
      @Nullable String with,
      @Nullable Method method,
      int asked,
      boolean critical) {}

  static PlannedRehearsal of(
      Estate estate, RehearsalOrders.Ready ready, RehearsalOrders.Wanted wanted) {
    RehearsalPlan plan = ready.plan();
    return new PlannedRehearsal(
        plan.workload().key(),
        plan.moment(),
        plan.loss().words(estate::storeName),
        wanted.atOnce(),
        plan.outlook().sentence(),
        plan.outlook().total(),
        plan.outlook().rto().toMillis(),
        plan.spread().map(Duration::toMillis).orElse(null),
        ready.readBytes(),
        ready.spaceBytes(),
        ready.freeBytes(),
        plan.members().stream().map(m -> member(estate, ready, m)).toList(),
        ready.notes(),
        plan.besides(),
        ready.refusal());
  }

  private static PlannedMember member(
      Estate estate, RehearsalOrders.Ready ready, RecoveryMember m) {
    RehearsalOrders.Member own = ready.members().get(m.resource().key());
    return new PlannedMember(
        m.resource().key(),
        m.resource().name(),
        ready.plan().begin(m),
        ready.plan().end(m),
        m.point() == null ? null : m.point().dataTime(),
        m.store() == null ? null : estate.storeName(m.store()),
        m.byItself() ? null : m.with().name(),
        own == null ? null : own.order().method(),
        own == null ? 0 : own.order().checks().size(),
        ready.plan().outlook().path().contains(m.resource().key()));
  }
}
