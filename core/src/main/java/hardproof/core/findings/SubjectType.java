package hardproof.core.findings;

import hardproof.core.wording.Coded;

/** What a finding is about. */
public enum SubjectType implements Coded {
  RESOURCE,
  FEED,
  EXCEPTION
}
