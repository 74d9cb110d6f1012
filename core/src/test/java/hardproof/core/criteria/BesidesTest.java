package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.facts.Estate;
import hardproof.core.losses.Loss;
import hardproof.core.proof.Evaluator;
import hardproof.core.recovery.TimeEstimates;
import hardproof.core.rehearsals.RehearsalPlan;
import hardproof.core.survival.Aftermath;
import hardproof.core.survival.Fate;
import hardproof.core.survival.Survival;
import java.time.Duration;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What a restore needs besides the data. "near" is a disk at site A, "far" a tape at site B. Invented data. */
class BesidesTest {
  private static Given encrypted(String keyPlaces) {
    return Given.estate()
        .point("a", 6)
        .thePoint("a", "encrypted", "yes")
        .theResource("key_places", keyPlaces);
  }

  private static Outcome apart(Given g) {
    return g.outcome(CriterionCode.SAFE_KEYS_APART);
  }

  @Test
  void keysAtOneSiteOrInOneFailureDomainAreTakenAtOnce() {
    assertThat(apart(encrypted("A")).sentence())
        .isEqualTo("the keys of R lie only at A: the loss of site A takes them all");
    assertThat(apart(encrypted("near")).sentence())
        .as("a store stands at a site and in a failure domain")
        .isEqualTo(
            "the keys of R lie only at near: the loss of site A and the loss of failure domain array take them all");
    assertThat(apart(encrypted("A;NEAR")).state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(apart(encrypted("A;B")).state()).isEqualTo(OutcomeState.MET);
    assertThat(apart(encrypted("safe at the notary")).state())
        .as("no loss of the estate takes that")
        .isEqualTo(OutcomeState.MET);
  }

  @Test
  void whatIsNotEncryptedNeedsNoKey() {
    Given g = encrypted("A").thePoint("a", "encrypted", "no");
    assertThat(apart(g).state()).isEqualTo(OutcomeState.NOT_APPLICABLE);
    assertThat(apart(g.thePoint("a", "encrypted", "")).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
  }

  private static Aftermath.Line after(Given g, Loss loss) {
    Estate estate = g.at(NOW);
    return Survival.of(estate, Evaluator.evaluate(estate, Standard.shipped()))
        .after(loss, 2)
        .lines()
        .stream()
        .filter(l -> l.workload().key().equals("w"))
        .findFirst()
        .orElseThrow();
  }

  /** A copy is left at B, and nobody can open it. */
  @Test
  void dataWithoutItsKeysIsLostWithThem() {
    assertThat(after(encrypted("A"), Loss.ofSite("A")).fate()).isEqualTo(Fate.LOST);
    assertThat(after(encrypted("A"), Loss.ofSite("A")).sentence())
        .isEqualTo("nothing is left of R that can be opened: its keys are lost too");
    assertThat(after(encrypted("A;B"), Loss.ofSite("A")).fate()).isEqualTo(Fate.SURVIVES);
    assertThat(after(encrypted("A"), Loss.ofSite("B")).fate()).isEqualTo(Fate.SURVIVES);
    assertThat(after(encrypted("near"), Loss.ofStores(Set.of("near"))).fate()).isEqualTo(Fate.LOST);
    assertThat(after(encrypted("A"), Loss.ofRegion("nordal")).fate()).isEqualTo(Fate.LOST);
  }

  /** An array that fails takes what lies on it, and nothing from the safe beside it. */
  @Test
  void keysAtASiteOutlastTheStoresThere() {
    assertThat(after(encrypted("A"), Loss.ofDomain("array")).fate()).isEqualTo(Fate.SURVIVES);
    assertThat(after(encrypted("A"), Loss.ofStores(Set.of("near"))).fate())
        .isEqualTo(Fate.SURVIVES);
    assertThat(after(encrypted("near"), Loss.ofDomain("array")).fate()).isEqualTo(Fate.LOST);
    assertThat(after(encrypted(""), Loss.ofSite("A")).fate())
        .as("where they lie is a question of its own")
        .isEqualTo(Fate.SURVIVES);
    assertThat(after(encrypted("A").thePoint("a", "encrypted", "no"), Loss.ofSite("A"))
            .fate())
        .isEqualTo(Fate.SURVIVES);
  }

  private static RehearsalPlan plan(Given g, Loss loss) {
    Estate estate = g.at(NOW);
    return RehearsalPlan.of(
        estate,
        new TimeEstimates(estate),
        estate.workload("w"),
        Duration.ofHours(24),
        NOW,
        loss,
        2,
        s -> true);
  }

  @Test
  void aRehearsalFromWhatIsLeftNeedsTheKeysToo() {
    assertThat(plan(encrypted("A"), Loss.ofSite("A")).refusal())
        .startsWith(
            "R has no usable point of then on a store that is left, or none whose keys are left");
    assertThat(plan(encrypted("A"), Loss.NONE).refusal()).isNull();
    assertThat(plan(encrypted("A;B"), Loss.ofSite("A")).refusal()).isNull();
  }

  @Test
  void aPlanSaysWhatARealRecoveryNeeds() {
    Given g = encrypted("A;B")
        .theResource(
            "kit", "a stick",
            "runbook", "page 17",
            "runbook_tried", NOW.minus(Duration.ofDays(3)).toString(),
            "licence", "contract 4",
            "restorers", "Nils;Petra");
    assertThat(plan(g, Loss.NONE).besides())
        .containsExactly(
            "R needs besides its data its recovery kit: a stick (not known to have been tried); its runbook: page 17"
                + " (tried 3 d ago); its licence: contract 4; its keys, at A and B; one of Nils and Petra");
    assertThat(plan(Given.estate().point("a", 6), Loss.NONE).besides()).isEmpty();
  }

  /** At the very end of a licence it holds. */
  @Test
  void aLicenceHoldsUntilItEnds() {
    Given g = Given.estate();
    assertThat(g.theResource("licence_until", NOW.toString())
            .outcome(CriterionCode.COVER_LICENCE)
            .state())
        .isEqualTo(OutcomeState.MET);
    assertThat(g.theResource("licence_until", NOW.minusMillis(1).toString())
            .outcome(CriterionCode.COVER_LICENCE)
            .state())
        .isEqualTo(OutcomeState.NOT_MET);
    assertThat(g.theResource("licence_until", "", "licence", "contract 4")
            .outcome(CriterionCode.COVER_LICENCE)
            .state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }

  /** Somebody named twice is one. */
  @Test
  void peopleAreCountedOnce() {
    Given g = Given.estate().theWorkload("tier", "1").theResource("restorers", "Nils;Nils");
    assertThat(g.outcome(CriterionCode.COVER_RESTORERS).state()).isEqualTo(OutcomeState.NOT_MET);
  }
}
