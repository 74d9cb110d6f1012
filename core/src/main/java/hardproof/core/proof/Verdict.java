package hardproof.core.proof;

import hardproof.core.wording.Coded;

/** One word for a workload, from the worst to the best; the worst member decides. */
public enum Verdict implements Coded {
  /** A member has no policy and no point. */
  UNCOVERED,
  /** A member has no usable point, or its exposure is over the RPO. */
  EXPOSED,
  /** The newest drill or read-back of a member failed, and nothing has passed since. */
  DISPROVEN,
  /** The facts it needs are overdue, or there are none. */
  UNKNOWN,
  /** Never reached the demanded rung. */
  UNPROVEN,
  /** Was proven; the proof is older than the proof period. */
  LAPSED,
  /** The demanded rung was reached inside the proof period. */
  PROVEN,
  /** Left out by a valid exception. */
  EXCLUDED
}
