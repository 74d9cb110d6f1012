package hardproof.core.proof;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Measure;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.Method;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Resource;
import hardproof.core.evidence.Tables;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** What must hold for every estate, tried on estates drawn from a seed. */
class EvaluationPropertiesTest {
  static List<Long> seeds() {
    List<Long> seeds = new ArrayList<>();
    for (long seed = 1; seed <= 60; seed++) {
      seeds.add(seed);
    }
    return seeds;
  }

  private static Given drawn(Random random) {
    Given g = Given.estate();
    int resources = 1 + random.nextInt(4);
    for (int r = 0; r < resources; r++) {
      String resource = r == 0 ? "r" : "r" + r;
      if (r > 0) {
        Kind kind = Kind.values()[random.nextInt(Kind.values().length)];
        g.resources.add(Given.resource(resource, kind, random.nextInt(5) == 0 ? null : "w"));
      }
      String base = null;
      for (int p = random.nextInt(8); p > 0; p--) {
        String key = resource + "-" + p;
        boolean full = base == null || random.nextInt(3) == 0;
        PointOutcome outcome = PointOutcome.values()[random.nextInt(8) / 6];
        g.point(
            key,
            resource,
            full ? Form.FULL : Form.INCREMENTAL,
            full ? null : base,
            1 + p * 11,
            outcome);
        if (random.nextInt(6) > 0) {
          g.copy(key, "near");
        }
        if (random.nextInt(3) > 0) {
          g.copy(key, "far");
        }
        if (random.nextInt(4) == 0) {
          g.drill(
              key,
              Method.suiting(Kind.FILE_SHARE).get(random.nextInt(3)),
              random.nextInt(4) > 0,
              random.nextInt(200) / 4.0);
        }
        base = key;
      }
    }
    return g;
  }

  private static <T> List<T> shuffled(List<T> list, Random random) {
    List<T> copy = new ArrayList<>(list);
    Collections.shuffle(copy, random);
    return copy;
  }

  /** A pack lists facts in its own order; the result may not depend on it. */
  @ParameterizedTest
  @MethodSource("seeds")
  void theOrderOfFactsDecidesNothing(long seed) {
    Random random = new Random(seed);
    Facts f = drawn(random).facts();
    Facts other = new Facts(
        shuffled(f.feeds(), random),
        shuffled(f.workloads(), random),
        shuffled(f.resources(), random),
        shuffled(f.stores(), random),
        shuffled(f.policies(), random),
        shuffled(f.points(), random),
        shuffled(f.copies(), random),
        shuffled(f.jobs(), random),
        shuffled(f.exceptions(), random),
        shuffled(f.drills(), random));
    Evaluation a = Evaluator.evaluate(new Estate(Given.NOW, f), Standard.shipped());
    Evaluation b = Evaluator.evaluate(new Estate(Given.NOW, other), Standard.shipped());
    assertThat(Tables.workloads(b)).isEqualTo(Tables.workloads(a));
    assertThat(Tables.findings(b)).isEqualTo(Tables.findings(a));
  }

  /** The quick figures are those that the criteria of freshness state. */
  @ParameterizedTest
  @MethodSource("seeds")
  void theExposureAloneIsThatOfTheCriteria(long seed) {
    Given g = drawn(new Random(seed));
    Evaluation evaluation = g.evaluate();
    List<Exposure> exposures = Exposure.of(g.at(Given.NOW), Standard.shipped());
    assertThat(exposures).hasSameSizeAs(g.resources);
    for (Exposure e : exposures) {
      assertThat(value(e.now()))
          .isEqualTo(measured(evaluation, e.resource(), CriterionCode.FRESH_EXPOSURE_NOW));
      assertThat(value(e.worst()))
          .isEqualTo(measured(evaluation, e.resource(), CriterionCode.FRESH_EXPOSURE_WORST));
      assertThat(e.attainment())
          .isEqualTo(measured(evaluation, e.resource(), CriterionCode.FRESH_ATTAINMENT));
    }
  }

  private static Double value(Duration duration) {
    return duration == null ? null : Measure.of(duration).value();
  }

  private static Double measured(Evaluation evaluation, Resource resource, CriterionCode code) {
    return evaluation.resource(resource.key()).outcomes().stream()
        .filter(o -> o.criterion() == code)
        .findFirst()
        .map(Outcome::measured)
        .map(Measure::value)
        .orElse(null);
  }

  /** No verdict without a cause, no outcome without a sentence and its arithmetic. */
  @ParameterizedTest
  @MethodSource("seeds")
  void everythingIsExplained(long seed) {
    Evaluation evaluation = drawn(new Random(seed)).evaluate();
    for (WorkloadResult w : evaluation.workloads()) {
      assertThat(w.causes()).isNotEmpty();
      assertThat(w.verdict()).isEqualTo(w.causes().get(0).verdict());
      assertThat(w.sentence()).isNotBlank();
      for (ResourceResult m : w.members()) {
        assertThat(m.outcomes())
            .extracting(Outcome::criterion)
            .containsExactly(CriterionCode.values());
        assertThat(m.outcomes()).allSatisfy(o -> assertThat(o.why()).isNotBlank());
      }
      if (w.verdict() == Verdict.PROVEN) {
        assertThat(w.rung().atLeast(w.demanded())).isTrue();
        assertThat(w.failed()).isNull();
        assertThat(w.actions()).isEmpty();
      }
    }
  }

  /** More proof never makes it worse. */
  @ParameterizedTest
  @MethodSource("seeds")
  void aPassedDrillOfANewUsablePointNeverMakesAVerdictWorse(long seed) {
    Given g = drawn(new Random(seed));
    Verdict before = g.result().verdict();
    g.point("newest", 0.9).drill("newest", Method.FULL_RESTORE, true, 0);
    assertThat(g.result().verdict()).isGreaterThanOrEqualTo(before);
  }

  /** Taking facts away never proves anything. */
  @ParameterizedTest
  @MethodSource("seeds")
  void withoutCopiesNothingIsProven(long seed) {
    Given g = drawn(new Random(seed));
    g.copies.clear();
    assertThat(g.evaluate().workloads()).noneMatch(w -> w.verdict() == Verdict.PROVEN);
  }

  /** Doing only what a change touches comes out the same as doing everything again. */
  @ParameterizedTest
  @MethodSource("seeds")
  void anUpdateEqualsAFullEvaluation(long seed) {
    Random random = new Random(seed);
    Given g = drawn(random);
    for (int i = 0; i < g.resources.size(); i++) {
      if (random.nextInt(4) == 0 && i > 0) {
        g.resources.set(i, withParent(g.resources.get(i), g.resources.get(i - 1).key()));
      }
    }
    Evaluation before = g.evaluate();
    Set<String> touched = new HashSet<>();
    for (int change = 1 + random.nextInt(3); change > 0; change--) {
      String resource = g.resources.get(random.nextInt(g.resources.size())).key();
      touched.add(resource);
      switch (random.nextInt(4)) {
        case 0 ->
          g.point("new" + change, resource, Form.FULL, null, 2, PointOutcome.COMPLETE)
              .copy("new" + change, "far");
        case 1 -> g.copies.removeIf(c -> c.point().startsWith(resource + "-"));
        case 2 -> g.drills.removeIf(d -> d.resource().equals(resource));
        default -> {
          int at = g.resources.indexOf(g.evaluate().resource(resource).resource());
          g.resources.set(at, withParent(g.resources.get(at), null));
        }
      }
    }
    if (random.nextBoolean()) {
      g.resources.add(Given.resource("late", Kind.DATABASE, "w"));
      touched.add("late");
    }
    Evaluation updated = Evaluator.update(before, g.at(Given.NOW), touched);
    Evaluation full = g.evaluate();
    assertThat(Tables.workloads(updated)).isEqualTo(Tables.workloads(full));
    assertThat(Tables.findings(updated)).isEqualTo(Tables.findings(full));
    assertThat(updated.workloads()).isEqualTo(full.workloads());
  }

  private static Resource withParent(Resource r, String parent) {
    return new Resource(
        r.key(),
        r.name(),
        r.kind(),
        new Resource.Links(r.workload(), parent, r.needs()),
        new Resource.Place(r.site(), r.region(), r.environment()),
        new Resource.Volume(r.sizeBytes(), r.dailyChangeBytes()),
        new Resource.Seen(r.firstSeen(), r.lastSeen(), r.agentSeen(), r.missingSince()),
        new Resource.Credentials(r.credentialsChanged(), r.credentialsTested()),
        r.tags(),
        r.importantPaths(),
        r.feed());
  }
}
