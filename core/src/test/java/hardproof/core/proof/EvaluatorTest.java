package hardproof.core.proof;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Fields;
import hardproof.core.Given;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.Method;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Selector;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.PointSource;
import hardproof.core.feeds.FactKinds;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** How resources come together in workloads, and workloads on the Board. */
class EvaluatorTest {
  private static Given withMember(Given g, String resource, Kind kind) {
    g.resources.add(Given.resource(resource, kind, "w"));
    g.point("of-" + resource, resource, Form.FULL, null, 3, PointOutcome.COMPLETE)
        .copy("of-" + resource, "near");
    return g;
  }

  private static void exclude(Given g, String resource) {
    g.exceptions.add(new AcceptedException(
        "x",
        Selector.allOf(Selector.Condition.is("key", resource)),
        null,
        "for tests",
        "ana",
        "bo",
        null,
        null,
        null));
  }

  /** By verdict, then tier (none counts as the first), then name, then key. */
  @Test
  void theWorstThenTheMostImportantComesFirst() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    g.workloads.clear();
    for (String line :
        List.of("proven,Aaa,3", "b2,Beta,2", "b1,Beta,2", "z1,Zeta,", "y1,Yak,1", "a3,Alpha,3")) {
      String[] of = line.split(",", -1);
      Integer tier = of[2].isEmpty() ? null : Integer.valueOf(of[2]);
      g.workloads.add(Fields.with(FactKinds.WORKLOADS, Given.workload(of[0], tier), "name", of[1]));
    }
    g.resources.set(0, Given.resource("r", Kind.FILE_SHARE, "proven"));
    assertThat(g.evaluate().workloads())
        .extracting(w -> w.workload().key())
        .containsExactly("y1", "z1", "b1", "b2", "a3", "proven");
  }

  @Test
  void membersStandByVerdictThenNameThenKey() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    for (String line : List.of("k3,Same", "k2,Same", "k1,Zulu", "k4,Bravo")) {
      String[] of = line.split(",");
      withMember(g, of[0], Kind.FILE_SHARE);
      g.resources.set(
          g.resources.size() - 1,
          Fields.with(FactKinds.RESOURCES, g.resources.get(g.resources.size() - 1), "name", of[1]));
    }
    assertThat(g.result().members())
        .extracting(m -> m.resource().key())
        .containsExactly("k4", "k2", "k3", "k1", "r");
  }

  /** What was left out neither holds its workload back nor asks for anything. */
  @Test
  void anExcludedMemberDoesNotCount() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    withMember(g, "m", Kind.VIRTUAL_MACHINE);
    g.workloads.set(0, Given.workload("w", 2));
    assertThat(g.result().demanded()).isEqualTo(Rung.RUNNING);
    assertThat(g.result().rung()).isEqualTo(Rung.CLAIMED);
    assertThat(g.result().actions()).extracting(Action::resource).contains("m");
    exclude(g, "m");
    WorkloadResult result = g.result();
    assertThat(result.verdict()).isEqualTo(Verdict.PROVEN);
    assertThat(result.demanded()).isEqualTo(Rung.RESTORED);
    assertThat(result.rung()).isEqualTo(Rung.RESTORED);
    assertThat(result.actions()).isEmpty();
  }

  @Test
  void aProvenMemberAsksForNothing() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    g.policies.clear();
    withMember(g, "s", Kind.FILE_SHARE);
    assertThat(g.result().members()).extracting(ResourceResult::verdict).contains(Verdict.PROVEN);
    assertThat(g.result().actions()).extracting(Action::resource).containsOnly("s");
  }

  @Test
  void ofSeveralProvenMembersTheFirstToLapseIsSaid() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    withMember(g, "s", Kind.FILE_SHARE).drill("of-s", Method.FULL_RESTORE, true, 50);
    assertThat(g.result().sentence())
        .isEqualTo("all 2 members proven; the first to lapse is S: restored, drilled 50 d ago; "
            + "lapses in 130 d");
  }

  /** A share can't run: it holds a workload of machines back only where it showed less than it can. */
  @Test
  void aKindThatGoesNoFurtherDoesNotHoldTheOthersBack() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    g.workloads.set(0, Given.workload("w", 2));
    withMember(g, "m", Kind.VIRTUAL_MACHINE).drill("of-m", Method.BOOT, true, 2);
    assertThat(g.result().rung()).isEqualTo(Rung.RUNNING);
    g.drills.set(
        0,
        Given.estate()
            .point("a", 5)
            .drill("a", Method.READ_THROUGH, true, 1)
            .drills
            .get(0));
    assertThat(g.result().rung()).isEqualTo(Rung.INTACT);
  }

  /** A share of which more was shown than is demanded of its workload does not count for less. */
  @Test
  void whatWasShownBeyondTheDemandStays() {
    Given g = Given.estate();
    g.resources.set(0, Given.resource("r", Kind.VIRTUAL_MACHINE, "w"));
    g.point("a", 5).drill("a", Method.BOOT, true, 1);
    assertThat(g.result().demanded()).isEqualTo(Rung.RESTORED);
    assertThat(g.result().rung()).isEqualTo(Rung.RUNNING);
  }

  /** The very results stay where nothing was touched; what was touched is judged anew. */
  @Test
  void anUpdateKeepsWhatNoChangeTouched() {
    Given g = Given.estate().point("a", 5);
    g.workloads.add(Given.workload("other", 3));
    g.resources.add(Given.resource("s", Kind.FILE_SHARE, "other"));
    Evaluation before = g.evaluate();
    g.drill("a", Method.FULL_RESTORE, true, 1);
    Evaluation after = Evaluator.update(before, g.at(NOW), Set.of("r"));
    assertThat(after.workload("w").verdict()).isEqualTo(Verdict.PROVEN);
    assertThat(after.workload("other")).isSameAs(before.workload("other"));
    assertThat(after.workloads()).isEqualTo(g.evaluate().workloads());
    assertThat(Evaluator.update(before, g.at(NOW), Set.of()).workload("w"))
        .as("nothing was said to be touched")
        .isSameAs(before.workload("w"));
  }

  /** A fault of ours in one resource: it is not judged, and the others are. */
  @Test
  void aFaultOfOursTakesOnlyItsOwnResourceAway() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    withMember(g, "broken", Kind.FILE_SHARE);
    Facts facts = g.facts();
    PointSource real = PointSource.of(g.points, g.copies);
    PointSource faulty = new PointSource() {
      @Override
      public PointSet of(String resource) {
        if (resource.equals("broken")) {
          throw new IllegalStateException("a fault");
        }
        return real.of(resource);
      }

      @Override
      public boolean any(String resource) {
        return real.any(resource);
      }
    };
    Estate estate = new Estate(NOW, NOW, facts, faulty);
    WorkloadResult result = Evaluator.evaluate(estate, Standard.shipped()).workload("w");
    assertThat(result.members())
        .extracting(ResourceResult::verdict)
        .containsExactly(Verdict.UNKNOWN, Verdict.PROVEN);
    assertThat(result.sentence()).contains("IllegalStateException");
  }
}
