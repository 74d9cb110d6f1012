package hardproof.server.people;

import hardproof.core.wording.Coded;

/** What a person may do. Everybody may read and make packs. */
public enum Role implements Coded {
  /** Reads and makes packs. */
  AUDITOR,
  /** Also starts drills, keeps programmes and brings facts in. */
  OPERATOR,
  /** Also decides exceptions. */
  APPROVER,
  /** Also keeps people and settings; may do what an operator may. */
  ADMINISTRATOR
}
