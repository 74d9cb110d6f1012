package hardproof.core.criteria;

import hardproof.core.wording.Coded;
import java.util.List;

/**
 * Every criterion that ships, in the order in which they are shown, by its stable code. Codes are never used again
 * for something else. Controls: NIST SP 800-53 r5, NIST SP 800-34 r1, CIS Controls v8, NIST CSF 2.0,
 * ISO/IEC 27001:2022 (references from the design, numbers not looked up anew).
 */
public enum CriterionCode implements Coded, Criterion {
  COVER_OWNER(new CoverOwner()),
  COVER_PROTECTED(new CoverProtected()),
  COVER_SEEN(new CoverSeen()),
  COVER_AGENT(new CoverAgent()),
  COVER_CREDENTIALS(new CoverCredentials()),
  COVER_KIT(new CoverKit()),
  COVER_RUNBOOK(new CoverRunbook()),
  COVER_RESTORERS(new CoverRestorers()),
  COVER_LICENCE(new CoverLicence()),
  COVER_IMPORTANT(new CoverImportant()),
  COVER_FEED(new CoverFeed()),
  FRESH_EXPOSURE_NOW(new FreshExposureNow()),
  FRESH_EXPOSURE_WORST(new FreshExposureWorst()),
  FRESH_ATTAINMENT(new FreshAttainment()),
  FRESH_ON_PAPER(new FreshOnPaper()),
  FRESH_WINDOW(new FreshWindow()),
  FRESH_LAST_OUTCOMES(new FreshLastOutcomes()),
  FRESH_PACE(new FreshPace()),
  HISTORY_REACH(new HistoryReach()),
  HISTORY_SLOTS(new HistorySlots()),
  HISTORY_ON_PAPER(new HistoryOnPaper()),
  HISTORY_LIFETIME(new HistoryLifetime()),
  HISTORY_GONE_EARLY(new HistoryGoneEarly()),
  COPIES_NUMBER(new CopiesNumber()),
  COPIES_MEDIA(new CopiesMedia()),
  COPIES_OFF_SITE(new CopiesOffSite()),
  COPIES_OFFLINE_OR_LOCKED(new CopiesOfflineOrLocked()),
  COPIES_ZERO_ERRORS(new CopiesZeroErrors()),
  COPIES_DEADLINE(new CopiesDeadline()),
  COPIES_INDEPENDENT(new CopiesIndependent()),
  COPIES_RESIDENCY(new CopiesResidency()),
  COPIES_REDUNDANCY(new CopiesRedundancy()),
  COPIES_AS_LISTED(new CopiesAsListed()),
  COPIES_SURVIVE_ONE(new CopiesSurviveOne()),
  COPIES_SURVIVE_INTRUDER(new CopiesSurviveIntruder()),
  SAFE_ENCRYPTED(new SafeEncrypted()),
  SAFE_KEYS_APART(new SafeKeysApart()),
  SAFE_LOCKED(new SafeLocked()),
  SAFE_LOCK_RETENTION(new SafeLockRetention()),
  SAFE_DELETION(new SafeDeletion()),
  SOUND_COMPLETE(new SoundComplete()),
  SOUND_SKIPPED(new SoundSkipped()),
  SOUND_CONSISTENCY(new SoundConsistency()),
  SOUND_PRE_STEP(new SoundPreStep()),
  SOUND_SOURCE_ROLE(new SoundSourceRole()),
  SOUND_SIZE(new SoundSize()),
  SOUND_CHAIN(new SoundChain()),
  SOUND_CHAIN_LENGTH(new SoundChainLength()),
  SOUND_FULL_AGE(new SoundFullAge()),
  PROOF_AGE(new ProofAge()),
  PROOF_LAST_DRILL(new ProofLastDrill()),
  PROOF_READ_BACK(new ProofReadBack()),
  PROOF_RECOVERY_TIME(new ProofRecoveryTime()),
  PROOF_ONE_MOMENT(new ProofOneMoment()),
  PROOF_OFF_SITE(new ProofOffSite()),
  PROOF_CLEAN_UP(new ProofCleanUp()),
  PROOF_LOSS(new ProofLoss());

  private final ShippedCriterion criterion;

  CriterionCode(ShippedCriterion criterion) {
    this.criterion = criterion;
  }

  Outcome judge(Subject s) {
    return Outcome.of(this, s, criterion.judge(s));
  }

  Basis basis() {
    return criterion.basis();
  }

  @Override
  public String code() {
    return Coded.super.code();
  }

  @Override
  public String group() {
    return criterion.group().words();
  }

  @Override
  public String title() {
    return criterion.title();
  }

  @Override
  public String demand() {
    return criterion.demand();
  }

  @Override
  public List<String> references() {
    return criterion.references();
  }

  @Override
  public boolean urgent() {
    return criterion.urgent();
  }

  /** What of a tier's demands it reads. */
  public List<Parameter> parameters() {
    return criterion.parameters();
  }
}
