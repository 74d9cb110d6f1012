package hardproof.core.survival;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.criteria.Standard;
import hardproof.core.criteria.Subject;
import hardproof.core.estate.Medium;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.losses.Loss;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.proof.Evaluator;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

class SurvivalPropertyTest {
  private static final int STORES = 5;

  /** Stores at two sites in two regions and two failure domains, points in chains, copies anywhere. */
  private static Given drawn(Random random) {
    Given g = Given.estate();
    g.stores.clear();
    for (int i = 0; i < STORES; i++) {
      Store store = Given.store(
          "s" + i,
          "site" + random.nextInt(2),
          Medium.DISK,
          random.nextInt(3) == 0 ? null : "domain" + random.nextInt(2),
          random.nextInt(3) > 0);
      g.stores.add(store);
      g.theStore("s" + i, "region", "region" + random.nextInt(2));
    }
    String before = null;
    for (int p = 0; p < 5; p++) {
      boolean alone = before == null || random.nextBoolean();
      String key = "p" + p;
      g.point(
          key,
          "r",
          alone ? Form.FULL : Form.INCREMENTAL,
          alone ? null : before,
          50 - 10.0 * p,
          random.nextInt(6) == 0 ? PointOutcome.FAILED : PointOutcome.COMPLETE);
      for (int i = 0; i < STORES; i++) {
        if (random.nextInt(5) < 2) {
          g.copy(key, "s" + i);
          if (random.nextInt(3) == 0) {
            g.theCopy(
                key,
                "s" + i,
                "locked_until",
                NOW.plusSeconds(random.nextInt(3) - 1).toString());
          }
        }
      }
      before = key;
    }
    return g;
  }

  /** Against facts from which the lost copies were taken, judged as ever: every set of stores, with and without an intruder. */
  @Test
  void aLossLeavesWhatFactsWithoutItWouldGive() {
    Random random = new Random(41);
    for (int round = 0; round < 60; round++) {
      Given g = drawn(random);
      Estate estate = g.at(NOW);
      Survival survival = Survival.of(estate, Evaluator.evaluate(estate, Standard.shipped()));
      Resource r = estate.resource("r");
      for (int set = 0; set < 1 << STORES; set++) {
        Set<String> lost = new HashSet<>();
        for (int i = 0; i < STORES; i++) {
          if ((set >> i & 1) == 1) {
            lost.add("s" + i);
          }
        }
        for (boolean intruder : new boolean[] {false, true}) {
          Loss loss = new Loss(Set.of(), Set.of(), lost, Set.of(), intruder, null);
          int row = survival.member("r").protection().newestLeft(survival.blow(loss));
          Given without = without(g, lost, intruder);
          var left = new Subject(without.at(NOW), Standard.shipped(), r).newestUsable();
          assertThat(row < 0 ? null : estate.pointSet("r").key(row))
              .as("round %d, %s", round, loss.words())
              .isEqualTo(left.map(j -> j.point().key()).orElse(null));
        }
      }
    }
  }

  private static Given without(Given g, Set<String> lost, boolean intruder) {
    Given other = Given.estate();
    other.stores.clear();
    other.stores.addAll(g.stores);
    other.points.addAll(g.points);
    g.copies.stream()
        .filter(c -> !lost.contains(c.store()))
        .filter(c -> {
          Store store = g.stores.stream()
              .filter(s -> s.key().equals(c.store()))
              .findFirst()
              .orElseThrow();
          boolean locked = c.lockedUntil() != null && c.lockedUntil().isAfter(NOW);
          return !intruder || locked || Boolean.FALSE.equals(store.online());
        })
        .forEach(other.copies::add);
    return other;
  }

  /**
   * The smallest sets of losses that take a resource of fulls are the minimal hitting sets of what takes each of its copies
   * (C. Berge, Hypergraphs, 1989: the transversals, built edge by edge), over sites, regions, stores and failure domains.
   */
  @Test
  void theSmallestLossesAreTheMinimalHittingSets() {
    Random random = new Random(43);
    int compared = 0;
    for (int round = 0; round < 40; round++) {
      Given g = drawn(random);
      g.points.replaceAll(p -> hardproof.core.Fields.with(
          hardproof.core.feeds.FactKinds.POINTS, p, "form", "full", "based_on", ""));
      Estate estate = g.at(NOW);
      Survival survival = Survival.of(estate, Evaluator.evaluate(estate, Standard.shipped()));
      if (survival.member("r").protection().newestLeft(survival.blow(Loss.NONE)) < 0) {
        continue;
      }
      List<String> atoms = atoms(g);
      Set<Set<String>> found = new HashSet<>();
      for (int set = 0; set < 1 << atoms.size(); set++) {
        Set<String> lost = new TreeSet<>();
        for (int i = 0; i < atoms.size(); i++) {
          if ((set >> i & 1) == 1) {
            lost.add(atoms.get(i));
          }
        }
        if (survival.member("r").protection().newestLeft(survival.blow(loss(lost))) < 0) {
          found.add(lost);
        }
      }
      found.removeIf(a -> found.stream().anyMatch(b -> b.size() < a.size() && a.containsAll(b)));
      assertThat(found).as("round %d", round).isEqualTo(transversals(edges(g)));
      compared++;
    }
    assertThat(compared).isGreaterThan(30);
  }

  private static List<String> atoms(Given g) {
    Set<String> atoms = new TreeSet<>();
    g.stores.forEach(s -> atoms.addAll(edge(s)));
    return List.copyOf(atoms);
  }

  private static Set<String> edge(Store s) {
    Set<String> edge =
        new TreeSet<>(Set.of("store " + s.key(), "site " + s.site(), "region " + s.region()));
    if (s.failureDomain() != null) {
      edge.add("domain " + s.failureDomain());
    }
    return edge;
  }

  private static Loss loss(Set<String> atoms) {
    return new Loss(
        of(atoms, "site "),
        of(atoms, "region "),
        of(atoms, "store "),
        of(atoms, "domain "),
        false,
        null);
  }

  private static Set<String> of(Set<String> atoms, String kind) {
    Set<String> names = new TreeSet<>();
    atoms.stream()
        .filter(a -> a.startsWith(kind))
        .forEach(a -> names.add(a.substring(kind.length())));
    return names;
  }

  /** One for each copy of a point that counts: what takes it. */
  private static List<Set<String>> edges(Given g) {
    List<Set<String>> edges = new ArrayList<>();
    g.copies.stream()
        .filter(c -> g.points.stream()
            .anyMatch(p -> p.key().equals(c.point()) && p.outcome() == PointOutcome.COMPLETE))
        .forEach(c -> edges.add(edge(
            g.stores.stream().filter(s -> s.key().equals(c.store())).findFirst().orElseThrow())));
    return edges;
  }

  private static Set<Set<String>> transversals(List<Set<String>> edges) {
    Set<Set<String>> all = new HashSet<>();
    all.add(Set.of());
    for (Set<String> edge : edges) {
      Set<Set<String>> next = new HashSet<>();
      for (Set<String> one : all) {
        if (one.stream().anyMatch(edge::contains)) {
          next.add(one);
        } else {
          for (String vertex : edge) {
            Set<String> more = new TreeSet<>(one);
            more.add(vertex);
            next.add(more);
          }
        }
      }
      next.removeIf(a -> next.stream().anyMatch(b -> b.size() < a.size() && a.containsAll(b)));
      all = next;
    }
    return all;
  }
}
