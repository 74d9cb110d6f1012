package hardproof.core.findings;

import hardproof.core.criteria.Concern;
import hardproof.core.wording.Coded;

/** What can be wrong that is no criterion of a resource. */
public enum FindingCode implements Coded, Concern {
  FEED_OVERDUE(SubjectType.FEED, "Feed overdue"),
  FEED_PACE(SubjectType.FEED, "Feed does not keep pace"),
  FEED_PENDING(SubjectType.FEED, "Feed names what is not known"),
  EXCEPTION_ENDING(SubjectType.EXCEPTION, "Exception ends soon"),
  EXCEPTION_ENDED(SubjectType.EXCEPTION, "Exception ended"),
  STORE_NOT_LISTED(SubjectType.STORE, "Store could not be listed"),
  STORE_UNTOLD(SubjectType.STORE, "Lies on a store, told by no feed"),
  PROOF_NOT_RENEWED(SubjectType.RESOURCE, "Nothing will renew its proof");

  private final SubjectType about;
  private final String title;

  FindingCode(SubjectType about, String title) {
    this.about = about;
    this.title = title;
  }

  @Override
  public String code() {
    return Coded.super.code();
  }

  @Override
  public String group() {
    return switch (about) {
      case FEED -> "Feeds";
      case EXCEPTION -> "Exceptions";
      case STORE -> "Stores";
      case RESOURCE -> "Proof";
    };
  }

  @Override
  public String title() {
    return title;
  }

  /** Without its feed nothing can be said of anything that the feed tells of. */
  @Override
  public boolean urgent() {
    return this == FEED_OVERDUE;
  }

  SubjectType about() {
    return about;
  }
}
