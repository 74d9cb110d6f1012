package hardproof.core.criteria;

import hardproof.core.wording.Coded;
import java.util.List;

/**
 * Every criterion that ships: its stable code, title, demand in one sentence, the parameters it
 * reads and the public controls it serves. Codes are never used again for something else. Controls:
 * NIST SP 800-53 r5, NIST SP 800-34 r1, CIS Controls v8, NIST CSF 2.0, ISO/IEC 27001:2022
 * (references from the design, numbers not looked up anew).
 */
public enum CriterionCode implements Coded, Criterion {
  COVER_OWNER(
      "Cover", "Owner and tier known", "Its workload has an owner and a tier.", refs("CIS 11.1")),
  COVER_PROTECTED(
      "Cover",
      "Covered",
      "A policy has it in scope and at least one recovery point was made of it.",
      refs("NIST CP-9", "CIS 11.2", "ISO A.8.13")),
  COVER_SEEN(
      "Cover",
      "Seen lately",
      "The full listings of its feed still name it.",
      refs("CIS 11.1", "NIST CP-9"),
      Parameter.SEEN_WITHIN),
  COVER_AGENT(
      "Cover",
      "Agent checks in",
      "The agent on it, where there is one, has checked in lately.",
      refs("NIST CP-9", "CIS 11.2"),
      Parameter.AGENT_WITHIN),
  COVER_CREDENTIALS(
      "Cover",
      "Credentials tested",
      "The credentials that its backups use were tested since they last changed.",
      refs("NIST CP-9", "CIS 11.5")),
  COVER_IMPORTANT(
      "Cover",
      "No important data left out",
      "No exclude filter of its policies hits a path that it calls important, or the whole of it.",
      refs("NIST CP-9", "CIS 11.2")),
  COVER_FEED(
      "Cover",
      "Feed in time",
      "The feeds that tell of it came within their rhythm.",
      refs("NIST CP-9", "CSF PR.DS-11")),
  FRESH_EXPOSURE_NOW(
      "Freshness",
      "Exposure now",
      "What would be lost now is at most the RPO.",
      refs("NIST CP-9", "CSF PR.DS-11"),
      Parameter.RPO),
  FRESH_EXPOSURE_WORST(
      "Freshness",
      "Worst exposure",
      "At no moment of the period would more than the RPO have been lost.",
      refs("NIST CP-9"),
      Parameter.RPO),
  FRESH_ATTAINMENT(
      "Freshness",
      "Attainment",
      "The RPO was kept for the share of the period that the tier demands.",
      refs("NIST CP-9"),
      Parameter.RPO,
      Parameter.ATTAINMENT),
  FRESH_ON_PAPER(
      "Freshness",
      "Schedule can meet the RPO",
      "The longest gap between starts and the usual run time together are at most the RPO.",
      refs("NIST CP-9", "NIST SP 800-34 r1"),
      Parameter.RPO),
  FRESH_WINDOW(
      "Freshness",
      "Window is feasible",
      "A job that begins at the end of its start window can be done by its deadline.",
      refs("NIST CP-9")),
  FRESH_LAST_OUTCOMES(
      "Freshness",
      "Last backups succeeded",
      "No more backups in a row have failed than the tier allows.",
      refs("NIST CP-9", "CSF PR.DS-11"),
      Parameter.FAILURES_IN_A_ROW),
  FRESH_PACE(
      "Freshness",
      "Feed keeps pace",
      "The feed that tells of its points comes at least as often as its RPO and copy deadlines ask.",
      refs("NIST CP-9", "CSF PR.DS-11"),
      Parameter.RPO),
  HISTORY_REACH(
      "History",
      "Reach in fact",
      "The oldest usable point is at least as old as the tier demands.",
      refs("NIST CP-9", "ISO A.8.13"),
      Parameter.REACH),
  HISTORY_SLOTS(
      "History",
      "Slots held",
      "Every day, week, month and year that the policy promises holds a usable point.",
      refs("NIST CP-9", "ISO A.8.13")),
  HISTORY_ON_PAPER(
      "History",
      "Reach on paper",
      "What the policy keeps reaches back as far as the tier demands.",
      refs("NIST CP-9"),
      Parameter.REACH),
  HISTORY_LIFETIME(
      "History",
      "Minimum lifetime",
      "Every point of the period is kept for at least as long as the tier demands.",
      refs("NIST CP-9"),
      Parameter.LIFETIME),
  HISTORY_GONE_EARLY(
      "History",
      "Nothing gone early",
      "No copy vanished before its expiry in the period.",
      refs("NIST CP-9(8)", "NIST SI-7")),
  COPIES_NUMBER(
      "Copies",
      "Copies",
      "Enough copies in separate failure domains, production counted.",
      refs("CIS 11.4"),
      Parameter.COPIES,
      Parameter.COPY_FRESHNESS),
  COPIES_MEDIA(
      "Copies",
      "Media",
      "Copies on enough different media, production counted.",
      refs("NIST CP-9(3)"),
      Parameter.MEDIA,
      Parameter.COPY_FRESHNESS),
  COPIES_OFF_SITE(
      "Copies",
      "Off-site",
      "Enough copies at another site than the resource's.",
      refs("NIST CP-6", "NIST CP-6(1)", "CIS 11.4"),
      Parameter.OFF_SITE,
      Parameter.COPY_FRESHNESS),
  COPIES_OFFLINE_OR_LOCKED(
      "Copies",
      "Offline or locked",
      "Enough copies that an intruder could not alter.",
      refs("CIS 11.4", "NIST CP-9(8)"),
      Parameter.OFFLINE_OR_LOCKED,
      Parameter.COPY_FRESHNESS),
  COPIES_ZERO_ERRORS(
      "Copies",
      "Zero errors",
      "No copy is damaged or failed to be read.",
      refs("NIST CP-9(1)", "NIST SI-7"),
      Parameter.ERRORS,
      Parameter.COPY_FRESHNESS),
  COPIES_DEADLINE(
      "Copies",
      "Copy deadline",
      "Every copy that a policy promises was finished within its deadline.",
      refs("NIST CP-9(5)")),
  COPIES_INDEPENDENT(
      "Copies",
      "Independence",
      "No copy shares a failure domain with the data or with another copy.",
      refs("NIST CP-6(1)", "NIST CP-9(3)", "CIS 11.4")),
  COPIES_RESIDENCY(
      "Copies",
      "Residency",
      "Every copy lies in a region that is allowed for its data class.",
      refs("NIST CP-6", "ISO A.5.30")),
  COPIES_REDUNDANCY(
      "Copies",
      "Redundancy",
      "At least one counted copy lies on a store that survives what the tier demands.",
      refs("NIST CP-6", "ISO A.8.14"),
      Parameter.REDUNDANCY),
  SAFE_ENCRYPTED(
      "Safeguards",
      "Encrypted",
      "Every point that is fresh enough to count is encrypted.",
      refs("NIST CP-9(8)", "CIS 11.3"),
      Parameter.ENCRYPTED),
  SAFE_LOCKED(
      "Safeguards",
      "Locked long enough",
      "The newest locked copy was locked for at least the minimum.",
      refs("NIST CP-9(8)", "CIS 11.3"),
      Parameter.LOCKED_FOR),
  SAFE_LOCK_RETENTION(
      "Safeguards",
      "Lock as long as retention",
      "No lock ends before its copy expires.",
      refs("NIST CP-9(8)"),
      Parameter.LOCK_COVERS_RETENTION),
  SAFE_DELETION(
      "Safeguards",
      "Deletion needs two people",
      "At least one counted copy lies on a store where deleting needs enough people (as declared).",
      refs("NIST CP-9(8)"),
      Parameter.DELETE_APPROVALS),
  SOUND_COMPLETE(
      "Soundness",
      "Newest point complete",
      "The newest point's outcome is complete.",
      refs("NIST CP-9")),
  SOUND_SKIPPED(
      "Soundness",
      "Nothing skipped",
      "The newest point holds every item it was to hold.",
      refs("NIST CP-9"),
      Parameter.SKIPPED_ITEMS),
  SOUND_CONSISTENCY(
      "Soundness",
      "Consistency",
      "The newest point is at least as consistent as the tier and its policy demand.",
      refs("NIST CP-9", "NIST CP-10"),
      Parameter.CONSISTENCY),
  SOUND_PRE_STEP(
      "Soundness",
      "Pre-step ran",
      "The step before the newest point (a checkpoint, telling the application) ran.",
      refs("NIST CP-9"),
      Parameter.PRE_STEP),
  SOUND_SOURCE_ROLE(
      "Soundness",
      "Preferred source",
      "The newest point was taken from the passive member of its cluster.",
      refs("NIST CP-9"),
      Parameter.PASSIVE_SOURCE),
  SOUND_SIZE(
      "Soundness",
      "Size believable",
      "The newest point's size is no outlier among the points of its form.",
      refs("NIST SI-7", "NIST CP-9(1)"),
      Parameter.SIZE_SCORE),
  SOUND_CHAIN(
      "Soundness",
      "Chain whole",
      "The newest point's chain is whole back to a full.",
      refs("NIST CP-10")),
  SOUND_CHAIN_LENGTH(
      "Soundness",
      "Chain length",
      "The newest point's chain is no longer than the tier allows.",
      refs("NIST CP-10"),
      Parameter.CHAIN_LENGTH),
  SOUND_FULL_AGE(
      "Soundness",
      "Age of the full",
      "The full that the newest point hangs from is no older than the tier allows.",
      refs("NIST CP-10"),
      Parameter.FULL_AGE),
  PROOF_AGE(
      "Proof",
      "Drilled in time",
      "A drill that reaches the demanded rung passed within the proof period.",
      refs("NIST CP-9(1)", "NIST CP-4", "CIS 11.5"),
      Parameter.RUNG,
      Parameter.PROOF_PERIOD),
  PROOF_LAST_DRILL(
      "Proof", "Last drill passed", "The newest drill passed.", refs("NIST CP-9(1)", "CIS 11.5")),
  PROOF_READ_BACK(
      "Proof",
      "Read back in time",
      "A copy was read back whole, or drilled, within the time that the tier allows.",
      refs("NIST CP-9(1)", "CIS 11.5"),
      Parameter.READ_BACK_AGE),
  PROOF_RECOVERY_TIME(
      "Proof",
      "Recovery time within the RTO",
      "The newest restore that passed took at most the RTO.",
      refs("NIST CP-10", "NIST CP-10(4)", "CSF RC.RP-03"),
      Parameter.RTO),
  PROOF_OFF_SITE(
      "Proof",
      "Drilled from off-site",
      "A drill from a copy at another site passed within the time that the tier allows.",
      refs("NIST CP-9(2)", "NIST CP-6"),
      Parameter.OFF_SITE_DRILL_AGE),
  PROOF_CLEAN_UP(
      "Proof", "Sandboxes cleaned up", "No restored data was left behind.", refs("ISO A.8.13"));

  private final String group;
  private final String title;
  private final String demand;
  private final List<String> references;
  private final List<Parameter> parameters;

  CriterionCode(
      String group, String title, String demand, List<String> references, Parameter... parameters) {
    this.group = group;
    this.title = title;
    this.demand = demand;
    this.references = references;
    this.parameters = List.of(parameters);
  }

  private static List<String> refs(String... references) {
    return List.of(references);
  }

  @Override
  public String code() {
    return Coded.super.code();
  }

  @Override
  public String group() {
    return group;
  }

  @Override
  public String title() {
    return title;
  }

  @Override
  public String demand() {
    return demand;
  }

  @Override
  public List<String> references() {
    return references;
  }

  /** What of a tier's demands it reads. */
  public List<Parameter> parameters() {
    return parameters;
  }
}
