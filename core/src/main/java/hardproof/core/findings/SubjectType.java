package hardproof.core.findings;

import hardproof.core.wording.Coded;

/** What a finding is about. */
public enum SubjectType implements Coded {
  RESOURCE,
  FEED,
  EXCEPTION,
  STORE;

  /** The kind of fact that it is, as facts are referred to. */
  String facts() {
    return code() + "s";
  }
}
