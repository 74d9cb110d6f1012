package hardproof.server.policies;

import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.AcceptedException.State;
import hardproof.core.estate.Coverage;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactKinds;
import hardproof.server.facts.FactStore;
import hardproof.server.facts.FactStore.FactState;
import hardproof.server.facts.OwnFacts;
import hardproof.server.web.Conflict;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/**
 * Decides exceptions. Nobody decides alone: whoever approves has neither proposed it nor brought it in,
 * and what a feed says of an approval is a proposal like any other. Deciding one that came by a feed
 * writes down what was decided as a fact of our own, so that a later delivery can't change it.
 */
public final class ExceptionDesk {
  /** Between the key of what a feed proposed and the feed, in the key of what was decided. */
  private static final String OF_FEED = " @ ";

  private final Supplier<Estate> estate;
  private final FactStore facts;
  private final OwnFacts own;

  public ExceptionDesk(Supplier<Estate> estate, FactStore facts, OwnFacts own) {
    this.estate = estate;
    this.facts = facts;
    this.own = own;
  }

  private Optional<AcceptedException> find(String key) {
    return estate.get().facts().exceptions().stream()
        .filter(e -> e.key().equals(key))
        .findFirst();
  }

  private AcceptedException known(String key) {
    return find(key).orElseThrow(() -> new NotFound("No exception '" + key + "' is known."));
  }

  /** The state of an exception as it was told last; null when there is none. */
  FactState state(String key) {
    return facts.fact(BundleFile.EXCEPTIONS, List.of(key)).orElse(null);
  }

  private static boolean ours(FactState state) {
    return state != null && state.feed().equals(OwnFacts.FEED);
  }

  /** What was decided here about a proposal of a feed, while that still says the same. */
  static Optional<AcceptedException> decisionAbout(
      AcceptedException proposal, String feed, List<AcceptedException> all) {
    return all.stream()
        .filter(e -> e.key().equals(proposal.key() + OF_FEED + feed))
        .filter(e -> e.sameTerms(proposal))
        .findFirst();
  }

  /** Why a person may not decide, null when they may. */
  String objection(AcceptedException exception, FactState state, String person) {
    if (person.equalsIgnoreCase(exception.proposedBy())) {
      return "You proposed this yourself; another person must decide.";
    }
    boolean brought = state != null
        && !ours(state)
        && facts
            .broughtBy(BundleFile.EXCEPTIONS, state)
            .filter(person::equalsIgnoreCase)
            .isPresent();
    return brought ? "You brought this in yourself; another person must decide." : null;
  }

  /**
   * Approves or refuses a proposal.
   *
   * @param seen the state that the person saw
   * @param covers resources that the person saw it cover; needed where it covers much of the estate
   */
  public void decide(
      String key, boolean approve, Instant seen, Integer covers, String person, Instant now) {
    AcceptedException proposal = known(key);
    FactState state = state(key);
    requireUndecided(key, now, proposal, state);
    requireNoObjection(person, proposal, state);
    requireCovers(approve, covers, proposal);
    requireSeen(key, seen, state);
    AcceptedException decided = approve ? proposal.approved(person) : proposal.refused(person);
    if (ours(state)) {
      own.put(FactKinds.EXCEPTIONS, decided, seen, person, now);
      return;
    }
    putOfFeed(person, now, proposal, state, decided);
  }

  private void requireUndecided(
      String key, Instant now, AcceptedException proposal, FactState state) {
    if (proposal.stateAt(now) != State.PROPOSED
        || !ours(state)
            && decisionAbout(proposal, state.feed(), estate.get().facts().exceptions())
                .isPresent()) {
      throw new Refused("'" + key + "' is decided already"
          + (ours(state)
              ? ": it is " + proposal.stateAt(now).code().replace('-', ' ') + "."
              : "; see what was written down here."));
    }
  }

  private void requireNoObjection(String person, AcceptedException proposal, FactState state) {
    String objection = objection(proposal, state, person);
    if (objection != null) {
      throw new Refused(objection);
    }
  }

  private void requireCovers(boolean approve, Integer covers, AcceptedException proposal) {
    Coverage coverage = estate.get().coverage(proposal.scope());
    if (approve && coverage.wide() && !Integer.valueOf(coverage.resources()).equals(covers)) {
      throw new Conflict("This covers " + coverage.sentence()
          + ". Look at what it covers, and approve it again with that number of resources.");
    }
  }

  private static void requireSeen(String key, Instant seen, FactState state) {
    if (!state.recordedAt().equals(seen)) {
      throw new Conflict("'" + key + "' was changed at " + state.recordedAt()
          + ", after you opened it. Nothing was decided: look at it as it is now.");
    }
  }

  private void putOfFeed(
      String person,
      Instant now,
      AcceptedException proposal,
      FactState state,
      AcceptedException decided) {
    // The proposer must be told from the approver for ever, also where the feed names none.
    String proposer = proposal.proposedBy() == null
        ? facts.broughtBy(BundleFile.EXCEPTIONS, state).orElse("feed " + state.feed())
        : proposal.proposedBy();
    AcceptedException kept =
        decided.proposed(proposer).named(proposal.key() + OF_FEED + state.feed());
    FactState before = state(kept.key());
    own.put(FactKinds.EXCEPTIONS, kept, before == null ? null : before.recordedAt(), person, now);
  }

  /**
   * Ends an exception that is in force: by whoever may decide it. A proposal is taken back by who made
   * it; refusing it is a decision.
   */
  void end(String key, Instant seen, boolean approver, String person, Instant clock) {
    AcceptedException exception = known(key);
    Instant now = clock.truncatedTo(ChronoUnit.MILLIS);
    FactState state = state(key);
    if (!ours(state)) {
      throw new Refused("'" + key + "' came by a feed and is a proposal: nothing of it is in force."
          + " An approver refuses it.");
    }
    State stands = exception.stateAt(now);
    if (stands == State.PROPOSED) {
      if (!person.equalsIgnoreCase(exception.proposedBy())) {
        throw new Refused("A proposal is taken back by who made it; an approver refuses it.");
      }
      own.put(FactKinds.EXCEPTIONS, exception.refused(person), seen, person, now);
      return;
    }
    requireMayEnd(key, approver, stands);
    requireNoObjection(person, exception, state);
    own.put(FactKinds.EXCEPTIONS, exception.endingAt(now), seen, person, now);
  }

  private static void requireMayEnd(String key, boolean approver, State stands) {
    if (stands != State.IN_FORCE) {
      throw new Refused("'" + key + "' is not in force: there is nothing to end.");
    }
    if (!approver) {
      throw new Refused("An exception is ended by an approver, who may decide it too.");
    }
  }
}
