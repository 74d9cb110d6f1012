package hardproof.core.survival;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Fields;
import hardproof.core.Given;
import hardproof.core.criteria.Standard;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Medium;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.FactKinds;
import hardproof.core.losses.Loss;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.proof.Evaluator;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

/** What would have more survive, of invented estates like those of {@link SurvivalTest}. */
class RemediesTest {
  private static List<String> remedies(Given g, Loss loss) {
    return Tried.of(g).remedies(loss).stream().map(c -> c.words(key -> key)).toList();
  }

  /** A full of 4 GB on "far" alone, and an increment of 1 GB on both. */
  private static Given onFar() {
    Given g = Given.estate()
        .point("full", "r", Form.FULL, null, 20, PointOutcome.COMPLETE)
        .copy("full", "far")
        .point("inc", "r", Form.INCREMENTAL, "full", 5, PointOutcome.COMPLETE)
        .copy("inc", "far")
        .copy("inc", "near");
    g.thePoint("full", "size", "4000000000").thePoint("inc", "size", "1000000000");
    return g;
  }

  @Test
  void whatIsNotThereYetIsCopied() {
    Given g = onFar();
    assertThat(remedies(g, Loss.ofSite("B")))
        .containsExactly(
            "one more copy of 1 resource on near, 4.00 GB: 1 more survives, and none is lost");
    assertThat(remedies(g, Loss.ofSite("A"))).as("nothing is lost").isEmpty();
    assertThat(remedies(g, Loss.ofRegion("nordal"))).as("no store is left").isEmpty();
    assertThat(remedies(Given.estate(), Loss.ofSite("B")))
        .as("there is nothing to copy")
        .isEmpty();
  }

  @Test
  void notWhereDataMayNotLieOrProductionDoes() {
    Given g = onFar();
    g.theResource("tags", "failure_domain=array");
    assertThat(remedies(g, Loss.ofSite("B"))).isEmpty();
    g.theResource("tags", "").theWorkload("data_class", "personal");
    Standard shipped = Standard.shipped();
    for (String region : List.of("nordal", "elsewhere")) {
      Standard own = new Standard(
          shipped.name(),
          1,
          shipped.period(),
          shipped.zone(),
          shipped.tiers(),
          java.util.Map.of("personal", List.of(region)),
          List.of());
      Estate estate = g.at(NOW);
      assertThat(Survival.of(estate, Evaluator.evaluate(estate, own)).remedies(Loss.ofSite("B")))
          .as(region)
          .hasSize(region.equals("nordal") ? 1 : 0);
    }
  }

  @Test
  void anIntruderIsKeptOffByALockOrByATape() {
    Given g = onFar();
    g.theStore("far", "online", "yes").theStore("near", "can_lock", "yes");
    assertThat(remedies(g, Loss.ofIntruder()))
        .containsExactly("one more copy of 1 resource on near, locked, 4.00 GB: 1 more survives,"
            + " and none is lost");
    g.copy("full", "near");
    assertThat(remedies(g, Loss.ofIntruder()))
        .containsExactly(
            "a lock on what near has of 1 resource: 1 more survives, and none is lost");
    g.stores.add(Given.store("shelf", "C", Medium.TAPE, null, false));
    assertThat(remedies(g, Loss.ofIntruder()))
        .as("the lock costs nothing to copy")
        .element(1)
        .isEqualTo("one more copy of 1 resource on shelf, 5.00 GB: 1 more survives, and none is"
            + " lost");
  }

  /** Keys that lie where the loss is, and nowhere else: copies alone would not be opened. */
  @Test
  void keysGetOneMorePlace() {
    Given g = onFar();
    g.theResource("key_places", "B");
    g.thePoint("full", "encrypted", "yes").thePoint("inc", "encrypted", "yes");
    assertThat(remedies(g, Loss.ofSite("B")))
        .containsExactly("one more copy of 1 resource on near and one more place for the keys of"
            + " 1 resource, 4.00 GB: 1 more survives, and none is lost");
    g.copy("full", "near");
    assertThat(remedies(g, Loss.ofSite("B")))
        .first()
        .isEqualTo("one more place for the keys of 1 resource: 1 more survives, and none is lost");
    g.theResource("key_places", "B;safe");
    assertThat(remedies(g, Loss.ofSite("B"))).as("there is a place").isEmpty();
  }

  /** An intruder who has the only key too: the copy has to be locked, and the key to lie elsewhere. */
  @Test
  void aLockAndAKeyAreSaidTogether() {
    Given g = onFar();
    g.theStore("far", "online", "yes").theStore("near", "can_lock", "yes");
    g.theResource("key_places", "safe");
    g.thePoint("full", "encrypted", "yes").thePoint("inc", "encrypted", "yes");
    Loss both =
        new Loss(Set.of(), Set.of(), Set.of(), Set.of(), Set.of("safe"), Set.of(), true, null);
    assertThat(remedies(g, both))
        .containsExactly(
            "one more copy of 1 resource on near, locked and one more place for the keys"
                + " of 1 resource, 4.00 GB: 1 more survives, and none is lost");
    g.copy("full", "near");
    assertThat(remedies(g, both))
        .containsExactly("a lock on what near has of 1 resource and one more place for the keys of"
            + " 1 resource: 1 more survives, and none is lost");
  }

  /** What a workload needs is saved with it, what no saved one needs is not copied. */
  @Test
  void onlyWhatIsNeededForWhatIsSaved() {
    Given g = onFar();
    g.theResource("needs", "names");
    g.workloads.add(Given.workload("base", 4));
    g.resources.add(Given.resource("names", Kind.FILE_SHARE, "base"));
    g.point("names-1", "names", Form.FULL, null, 2, PointOutcome.COMPLETE).copy("names-1", "far");
    g.workloads.add(Given.workload("half", 2));
    g.resources.add(Given.resource("some", Kind.FILE_SHARE, "half"));
    g.resources.add(Given.resource("none", Kind.FILE_SHARE, "half"));
    g.point("some-1", "some", Form.FULL, null, 2, PointOutcome.COMPLETE).copy("some-1", "far");
    Remedy remedy = Tried.of(g).remedies(Loss.ofSite("B")).get(0);
    assertThat(remedy.copied()).containsExactlyInAnyOrder("r", "names");
    assertThat(remedy.saved()).isEqualTo(2);
    assertThat(remedy.still()).as("half had nothing before").isZero();
  }

  /** Against facts in which the copies lie there: as many more survive as was said. */
  @Test
  void whatWasTriedComesOutSoWhenItIsDone() {
    Random random = new Random(47);
    int tried = 0;
    for (int round = 0; round < 40; round++) {
      Given g = drawn(random);
      Loss loss =
          random.nextInt(4) == 0 ? Loss.ofIntruder() : Loss.ofSite("site" + random.nextInt(2));
      long lost = Tried.of(g).after(loss, 2).count(Fate.LOST);
      for (Remedy remedy : Tried.of(g).remedies(loss)) {
        Given done = done(g, remedy);
        assertThat(lost - Tried.of(done).after(loss, 2).count(Fate.LOST))
            .as("round %d, %s after %s", round, remedy, loss.words())
            .isEqualTo(remedy.saved());
        assertThat(Tried.of(done).after(loss, 2).count(Fate.LOST)).isEqualTo(remedy.still());
        tried++;
      }
    }
    assertThat(tried).isGreaterThan(40);
  }

  private static Given drawn(Random random) {
    Given g = Given.estate();
    g.stores.clear();
    for (int i = 0; i < 4; i++) {
      g.stores.add(Given.store("s" + i, "site" + i % 2, Medium.DISK, null, random.nextInt(3) > 0));
      g.theStore("s" + i, "can_lock", random.nextBoolean() ? "yes" : "no");
    }
    for (int w = 0; w < 3; w++) {
      g.workloads.add(Given.workload("w" + w, 1 + w));
      for (int m = 0; m < 2; m++) {
        String key = "w" + w + "m" + m;
        g.resources.add(Fields.with(
            FactKinds.RESOURCES,
            Given.resource(key, Kind.FILE_SHARE, "w" + w),
            "needs",
            random.nextInt(3) == 0 ? "w0m" + (1 - m % 2) : ""));
        String before = null;
        for (int p = 0; p < 3; p++) {
          boolean alone = before == null || random.nextBoolean();
          String point = key + "p" + p;
          g.point(
              point,
              key,
              alone ? Form.FULL : Form.INCREMENTAL,
              alone ? null : before,
              40 - 10.0 * p,
              PointOutcome.COMPLETE);
          for (int s = 0; s < 4; s++) {
            if (random.nextInt(5) < 2) {
              g.copy(point, "s" + s);
            }
          }
          before = point;
        }
      }
    }
    return g;
  }

  /** The chain of the newest usable point of each, on the store, locked. */
  private static Given done(Given g, Remedy remedy) {
    Given other = Given.estate();
    other.stores.clear();
    other.stores.addAll(g.stores);
    other.workloads.clear();
    other.workloads.addAll(g.workloads);
    other.resources.clear();
    other.resources.addAll(g.resources);
    other.points.addAll(g.points);
    other.copies.addAll(g.copies);
    for (String key : remedy.copied()) {
      var newest = new hardproof.core.criteria.Subject(
              g.at(NOW), Standard.shipped(), g.at(NOW).resource(key))
          .newestUsable()
          .orElseThrow();
      Set<String> links = new TreeSet<>();
      hardproof.core.points.Chain.of(newest.point(), g.at(NOW).pointSet(key)::point)
          .points()
          .forEach(p -> links.add(p.key()));
      for (String link : links) {
        other.copies.removeIf(c -> c.point().equals(link) && c.store().equals(remedy.store()));
        other.copy(link, remedy.store());
        other.theCopy(
            link, remedy.store(), "locked_until", NOW.plusSeconds(1000).toString());
      }
    }
    return other;
  }
}
