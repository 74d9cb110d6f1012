package hardproof.core.plan;

import hardproof.core.wording.Coded;

/** What a person can decide about a cause. */
public enum Remedy implements Coded {
  /** Put under a policy. */
  COVER,
  /** Drill now. */
  DRILL,
  /** Open a programme that drills. */
  PROGRAMME,
  /** Say whether the screen of a machine is the right one. */
  SCREEN,
  /** Have a complete point made. */
  POINT,
  /** Have copies made where they are asked for. */
  COPY,
  /** Change what a policy says. */
  POLICY,
  /** Say who owns it, and how much it matters. */
  OWNER,
  /** Bring a feed back, or ask for it more often. */
  FEED,
  /** Renew an exception, or let it be over. */
  EXCEPTION,
  /** Look at what is wrong, and put it right. */
  LOOK
}
