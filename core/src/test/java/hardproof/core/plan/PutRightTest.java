package hardproof.core.plan;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Selector;
import hardproof.core.findings.Findings;
import hardproof.core.forecast.Forecast;
import hardproof.core.programmes.Capacity;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What comes of looking into something and putting it right, each on an estate that has nothing else of the kind. */
class PutRightTest {
  private final Given g = Given.estate();

  @BeforeEach
  void points() {
    for (int day = 40; day >= 0; day--) {
      g.point("p" + day, day * 24 + 5);
    }
  }

  private List<PlanCause> causes(List<Forecast.Gap> gaps, Set<String> waiting) {
    return PlanCause.of(Findings.of(g.evaluate(), g.at(NOW), Map.of(), gaps), waiting);
  }

  private Effect effect(String code, Remedy remedy) {
    PlanCause cause = causes(List.of(), Set.of()).stream()
        .filter(c -> c.roots().get(0).code().equals(code))
        .findFirst()
        .orElseThrow();
    assertThat(cause.remedy()).isEqualTo(remedy);
    return new Planner(g.evaluate(), g.at(NOW), Capacity.usual()).effect(cause);
  }

  private void closes(String code) {
    assertThat(effect(code, Remedy.LOOK)).satisfies(e -> {
      assertThat(e.computed()).isTrue();
      assertThat(e.closed()).isEqualTo(1);
      assertThat(e.takes()).isZero();
    });
  }

  @Test
  void credentialsAreTested() {
    g.theResource(
        "credentials_changed",
        "2026-11-20T00:00:00Z",
        "credentials_tested",
        "2026-11-01T00:00:00Z");
    closes("cover-credentials");
  }

  @Test
  void anAgentChecksIn() {
    g.theResource("agent_seen", "2026-10-01T00:00:00Z");
    closes("cover-agent");
  }

  @Test
  void whatIsImportantIsLeftOutNoMore() {
    g.theResource("important_paths", "/letters").thePolicy("exclude", "/letters/*");
    closes("cover-important");
  }

  @Test
  void aStepRunsBeforeTheNextPoint() {
    g.thePoint("p0", "pre_step", "no");
    closes("sound-pre-step");
  }

  @Test
  void whatIsOddIsUsualInTheNextPoint() {
    g.points.replaceAll(p -> hardproof.core.Fields.with(
        hardproof.core.feeds.FactKinds.POINTS, p, "size", p.key().equals("p0") ? "90000" : "1000"));
    Effect effect = effect("sound-size", Remedy.LOOK);
    assertThat(effect.computed()).isTrue();
  }

  /** As many people as are demanded; a store that asks for more already goes on asking for them. */
  @Test
  void deletingNeedsAsManyPeopleAsAreDemanded() {
    g.theWorkload("tier", "1");
    g.theStore("near", "delete_approvals", "1").theStore("far", "delete_approvals", "1");
    closes("safe-deletion");
    g.theStore("far", "delete_approvals", "5");
    var estate = g.at(NOW);
    var right = new PutRight(estate, g.evaluate(), new AsIf(estate, g.evaluate()))
        .of("safe-deletion", List.of("r"))
        .orElseThrow();
    assertThat(right.store("far").deleteApprovals()).isEqualTo(5);
    assertThat(right.store("near").deleteApprovals()).isEqualTo(2);
  }

  /** A sandbox is cleaned up by whoever looks. */
  @Test
  void sandboxesAreCleanedUp() {
    g.drill("p0", Method.FULL_RESTORE, true, 1);
    var d = g.drills.remove(0);
    g.drills.add(new hardproof.core.drills.DrillFact(
        d.run(),
        d.of(),
        d.method(),
        d.reaches(),
        new hardproof.core.drills.DrillFact.Answers(
            d.answers().restore(), d.answers().checks(), hardproof.core.drills.CleanupState.FAILED),
        d.times(),
        d.bytes(),
        d.blame(),
        d.sentence()));
    closes("proof-clean-up");
  }

  /** The last 7 of one a day reach back a week; two are demanded. */
  @Test
  void pointsAreKeptForLongEnough() {
    g.thePolicy("schedule", "24h", "keep_last", "7");
    Effect effect = effect("history-on-paper", Remedy.POLICY);
    assertThat(effect.computed()).isTrue();
    assertThat(effect.closed()).isEqualTo(1);
  }

  private void exception(Instant until) {
    g.exceptions.add(new AcceptedException(
        "x",
        Selector.EVERYTHING,
        null,
        "not in use",
        "operator",
        "approver",
        NOW.minus(Duration.ofDays(30)),
        until,
        null));
  }

  /** One that ends soon changes nothing by going on: what is said is what opens when it ends. */
  @Test
  void anExceptionThatEndsOpensWhatItAccepted() {
    exception(NOW.plus(Duration.ofDays(3)));
    Effect ending = effect("exception-ending", Remedy.EXCEPTION);
    assertThat(ending.computed()).isTrue();
    assertThat(ending.opened()).isPositive();
    assertThat(ending.words()).isEqualTo("once it is over, " + ending.opened() + " findings open");
    g.exceptions.clear();
    exception(NOW.minus(Duration.ofDays(3)));
    Effect ended = effect("exception-ended", Remedy.EXCEPTION);
    assertThat(ended.closed()).isEqualTo(ending.opened());
  }

  /** Whoever is silent is one cause, for the feed and for all that it tells of. */
  @Test
  void aFeedIsBroughtUpToDateOnce() {
    g.feeds.add(new Feed(
        "feed",
        Duration.ofHours(26),
        NOW.minus(Duration.ofDays(2)),
        NOW.minus(Duration.ofDays(2))));
    List<PlanCause> feeds = causes(List.of(), Set.of()).stream()
        .filter(c -> c.remedy() == Remedy.FEED)
        .toList();
    assertThat(feeds).singleElement().satisfies(c -> {
      assertThat(c.todo()).isEqualTo("bring feed feed up to date");
      assertThat(c.roots()).extracting(f -> f.code()).contains("cover-feed");
    });
  }

  /** Nothing brings back what is gone. */
  @Test
  void whatIsGoneStaysGone() {
    g.thePolicy("keep_for", "30d", "schedule", "24h");
    g.points.removeIf(p -> Set.of("p4", "p5", "p6").contains(p.key()));
    Effect effect = effect("history-slots", Remedy.LOOK);
    assertThat(effect).isEqualTo(Effect.UNKNOWN);
  }

  /** A drill that waits for somebody's word needs no other drill: the word is what is to be given. */
  @Test
  void whoseScreenWaitsIsLookedAt() {
    PlanCause cause = causes(List.of(), Set.of("r")).stream()
        .filter(c -> c.remedy() == Remedy.SCREEN)
        .findFirst()
        .orElseThrow();
    assertThat(cause.todo()).isEqualTo("say whether the screen of R is the right one");
    Effect effect = new Planner(g.evaluate(), g.at(NOW), Capacity.usual()).effect(cause);
    assertThat(effect.proven()).isEqualTo(1);
    assertThat(effect.takes()).isZero();
    assertThat(causes(List.of(), Set.of()))
        .noneMatch(c -> c.remedy() == Remedy.SCREEN)
        .anyMatch(c -> c.remedy() == Remedy.DRILL);
  }
}
