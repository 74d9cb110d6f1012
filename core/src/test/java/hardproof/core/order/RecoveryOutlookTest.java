package hardproof.core.order;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Fields;
import hardproof.core.Given;
import hardproof.core.criteria.Standard;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.FactKinds;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.recovery.TimeEstimates;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;

/** How soon workloads come back, over whole estates. The store "near" reads 100 MB a second. Invented data. */
class RecoveryOutlookTest {
  private static final long GB = 1_000_000_000;
  private static final Duration RTO = Duration.ofMinutes(10);

  /** A member of a workload with a point that takes 10 s for each GB from "near". */
  private static void member(Given g, String key, String workload, long gb, String... needs) {
    if (g.resources.stream().noneMatch(r -> r.key().equals(key))) {
      g.resources.add(Given.resource(key, Kind.FILE_SHARE, workload));
    }
    g.resources.replaceAll(r -> r.key().equals(key)
        ? Fields.with(FactKinds.RESOURCES, r, "needs", String.join(";", needs))
        : r);
    if (gb > 0) {
      String point = key + "-1";
      g.point(point, key, Form.FULL, null, 5, PointOutcome.COMPLETE);
      g.thePoint(point, "size", String.valueOf(gb * GB)).copy(point, "near");
    }
  }

  private static RecoveryOutlook outlook(Given g, int atOnce) {
    Estate estate = g.at(NOW);
    Workload workload = estate.workload("w");
    RecoveryOrder order =
        RecoveryOrder.of(estate, Standard.shipped(), new TimeEstimates(estate), workload);
    return RecoveryOutlook.of(order, order.limits(atOnce), RTO);
  }

  private static Given given() {
    return Given.estate().theStore("far", "throughput", "");
  }

  @Test
  void membersComeAfterWhatTheyNeed() {
    Given g = given();
    member(g, "r", "w", 10);
    member(g, "app", "w", 20, "r");
    RecoveryOutlook outlook = outlook(g, 2);
    assertThat(outlook.total()).isEqualTo(300_000);
    assertThat(outlook.path()).containsExactly("r", "app");
    assertThat(outlook.sentence())
        .isEqualTo(
            "back in about 5 m, 5 m inside the RTO of 10 m; APP sets the time: 3 m 20 s of it");
    // At the very objective it is inside.
    member(g, "third", "w", 30, "app");
    assertThat(outlook(g, 2).sentence()).contains("back in about 10 m, 0 s inside the RTO");
    member(g, "fourth", "w", 1, "third");
    assertThat(outlook(g, 2).sentence()).contains("10 s over the RTO of 10 m");
  }

  /** All members of a workload that is needed are up before the first of those that need it, however deep. */
  @Test
  void workloadsComeAfterWorkloads() {
    Given g = given();
    g.theWorkload("needs", "names");
    g.workloads.add(Fields.with(FactKinds.WORKLOADS, Given.workload("names", 1), "needs", "keys"));
    g.workloads.add(Given.workload("keys", 1));
    member(g, "r", "w", 1);
    member(g, "dns", "names", 2);
    member(g, "dhcp", "names", 3);
    member(g, "vault", "keys", 4);
    RecoveryOutlook outlook = outlook(g, 8);
    assertThat(outlook.path()).containsExactly("vault", "dhcp", "r");
    // What two read from one store takes both as long as it takes one after the other.
    assertThat(outlook.total()).isEqualTo(100_000);
    assertThat(outlook.order().members()).hasSize(4);
  }

  @Test
  void whatCantComeBackSaysWhy() {
    Given g = given();
    member(g, "r", "w", 1);
    member(g, "app", "w", 0, "r");
    member(g, "web", "w", 1, "app");
    RecoveryOutlook lost = outlook(g, 2);
    assertThat(lost.sentence()).isEqualTo("it can't come back whole: APP has no usable point");
    assertThat(lost.never())
        .containsEntry("app", "it has no usable point")
        .containsEntry("web", "it needs what can't be brought back")
        .doesNotContainKey("r");
    g = given();
    member(g, "r", "w", 1, "app");
    member(g, "app", "w", 1, "r");
    RecoveryOutlook circle = outlook(g, 2);
    assertThat(circle.sentence())
        .isEqualTo(
            "it can't come back whole: APP and R need each other, and neither can be up first");
    assertThat(circle.never()).containsEntry("r", "it needs what needs it");
  }

  /** Two workloads that need each other are a circle of all their members. */
  @Test
  void circlesGoThroughWorkloads() {
    Given g = given();
    g.theWorkload("needs", "v");
    g.workloads.add(Fields.with(FactKinds.WORKLOADS, Given.workload("v", 1), "needs", "w"));
    member(g, "r", "w", 1);
    member(g, "s", "v", 1);
    assertThat(outlook(g, 2).order().circles(outlook(g, 2).steps()))
        .containsExactly(List.of("all of v", "all of w", "r", "s"));
  }

  /** A time that nobody knows is neither short nor long. */
  @Test
  void aTimeThatIsNotKnownIsSaid() {
    Given g = given();
    member(g, "r", "w", 10);
    g.resources.add(Given.resource("tape", Kind.FILE_SHARE, "w"));
    g.point("tape-1", "tape", Form.FULL, null, 5, PointOutcome.COMPLETE).copy("tape-1", "far");
    assertThat(outlook(g, 2).sentence())
        .isEqualTo("it takes at least 1 m 40 s; how long TAPE takes is not known");
    member(g, "r2", "w", 100);
    assertThat(outlook(g, 2).sentence())
        .endsWith("is not known, and that is over the RTO of 10 m already");
    assertThat(outlook(Given.estate(), 1).sentence()).contains("R has no usable point");
  }

  /** From the copy that has it back soonest, and never from one that is known to be bad. */
  @Test
  void theQuickestGoodCopyIsTaken() {
    Given g = given();
    g.theStore("far", "throughput", "200000000");
    member(g, "r", "w", 10);
    g.copy("r-1", "far");
    assertThat(outlook(g, 2).order().member("r").store()).isEqualTo("far");
    assertThat(outlook(g, 2).total()).isEqualTo(50_000);
    g.theCopy("r-1", "far", "last_read", "2026-11-24T09:00:00Z", "last_read_outcome", "failed");
    assertThat(outlook(g, 2).order().member("r").store()).isEqualTo("near");
  }

  @Test
  void whatWouldHelpIsFoundByTrying() {
    Given g = given();
    g.theStore("far", "throughput", "100000000");
    member(g, "r", "w", 10);
    member(g, "b", "w", 10);
    g.copies.removeIf(c -> c.point().equals("b-1"));
    g.copy("b-1", "far");
    // One at once: 100 s and 100 s. Two at once, from two stores: 100 s.
    RecoveryOutlook one = outlook(g, 1);
    assertThat(one.total()).isEqualTo(200_000);
    assertThat(one.speedUps().get(0).kind()).isEqualTo(SpeedUp.Kind.MORE_AT_ONCE);
    assertThat(one.words(one.speedUps().get(0)))
        .startsWith("one more at once: 1 m 40 s sooner, 1 m 40 s in all");
    // Two at once: neither store alone makes it sooner, and a third place nothing.
    assertThat(outlook(g, 2).speedUps()).isEmpty();
    member(g, "c", "w", 20, "r");
    RecoveryOutlook two = outlook(g, 2);
    assertThat(two.total()).isEqualTo(300_000);
    assertThat(two.speedUps().get(0).kind()).isEqualTo(SpeedUp.Kind.STORE);
    assertThat(two.words(two.speedUps().get(0)))
        .isEqualTo("NEAR read twice as fast: 2 m 30 s sooner, 2 m 30 s in all");
  }

  /** A disk inside of a machine comes with the machine's image, and is up when that is. */
  @Test
  void whatAnImageProtectsComesWithIt() {
    Given g = given();
    member(g, "r", "w", 10);
    g.resources.add(
        Fields.with(FactKinds.RESOURCES, Given.resource("disk", Kind.VOLUME, "w"), "parent", "r"));
    RecoveryOutlook outlook = outlook(g, 2);
    assertThat(outlook.never()).isEmpty();
    assertThat(outlook.bar("disk").begin()).isEqualTo(100_000);
    assertThat(outlook.order().member("disk").byItself()).isFalse();
  }
}
