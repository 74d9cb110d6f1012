package hardproof.core.criteria;

import java.time.Duration;
import java.util.List;

/** Does the agent on it still speak? */
final class CoverAgent extends ShippedCriterion {
  CoverAgent() {
    super(
        Group.COVER,
        "Agent checks in",
        "The agent on it, where there is one, has checked in lately.",
        List.of("NIST CP-9", "CIS 11.2"),
        Parameter.AGENT_WITHIN);
  }

  @Override
  Judgement judge(Subject s) {
    Duration allowed = s.demand().duration(Parameter.AGENT_WITHIN);
    if (allowed == null) {
      return Judgement.notDemanded();
    }
    if (s.resource().agentSeen() == null) {
      return Judgement.notAsked("no agent on it is known");
    }
    return checkedIn(s, allowed);
  }

  private static Judgement checkedIn(Subject s, Duration allowed) {
    return Judgement.within(
        s,
        s.resource().agentSeen(),
        allowed,
        "the agent on " + s.resource().name() + " last checked in",
        "agent's last check-in",
        new FactRef("resources", s.resource().key()));
  }
}
