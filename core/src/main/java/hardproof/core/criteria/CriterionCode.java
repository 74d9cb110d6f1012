package hardproof.core.criteria;

import hardproof.core.wording.Coded;
import java.util.List;

/**
 * Every criterion: its stable code, title, demand in one sentence and the public controls it
 * serves. Codes are never used again for something else. Controls: NIST SP 800-53 r5, CIS Controls
 * v8, NIST CSF 2.0, ISO/IEC 27001:2022 (references from the design, numbers not looked up anew).
 */
public enum CriterionCode implements Coded {
  COVER_OWNER("Cover", "Owner and tier known", "Its workload has an owner and a tier.", "CIS 11.1"),
  COVER_PROTECTED(
      "Cover",
      "Covered",
      "A policy has it in scope and at least one recovery point was made of it.",
      "NIST CP-9",
      "CIS 11.2",
      "ISO A.8.13"),
  FRESH_EXPOSURE_NOW(
      "Freshness",
      "Exposure now",
      "What would be lost now is at most the RPO.",
      "NIST CP-9",
      "CSF PR.DS-11"),
  FRESH_EXPOSURE_WORST(
      "Freshness",
      "Worst exposure",
      "At no moment of the period would more than the RPO have been lost.",
      "NIST CP-9"),
  FRESH_ATTAINMENT(
      "Freshness",
      "Attainment",
      "The RPO was kept for the share of the period that the tier demands.",
      "NIST CP-9"),
  COPIES_NUMBER(
      "Copies",
      "Copies",
      "Enough copies in separate failure domains, production counted.",
      "CIS 11.4"),
  COPIES_MEDIA(
      "Copies", "Media", "Copies on enough different media, production counted.", "NIST CP-9(3)"),
  COPIES_OFF_SITE(
      "Copies",
      "Off-site",
      "Enough copies at another site than the resource's.",
      "NIST CP-6",
      "CIS 11.4"),
  COPIES_OFFLINE_OR_LOCKED(
      "Copies",
      "Offline or locked",
      "Enough copies that an intruder could not alter.",
      "CIS 11.4",
      "NIST CP-9(8)"),
  COPIES_ZERO_ERRORS(
      "Copies",
      "Zero errors",
      "No copy is damaged or failed to be read.",
      "NIST CP-9(1)",
      "NIST SI-7"),
  COPIES_DEADLINE(
      "Copies",
      "Copy deadline",
      "Every copy that a policy promises was finished within its deadline.",
      "NIST CP-9(5)"),
  SOUND_COMPLETE(
      "Soundness", "Newest point complete", "The newest point's outcome is complete.", "NIST CP-9"),
  SOUND_CHAIN(
      "Soundness",
      "Chain whole",
      "The newest point's chain is whole back to a full.",
      "NIST CP-10"),
  PROOF_AGE(
      "Proof",
      "Drilled in time",
      "A drill that reaches the demanded rung passed within the proof period.",
      "NIST CP-9(1)",
      "NIST CP-4",
      "CIS 11.5"),
  PROOF_LAST_DRILL(
      "Proof", "Last drill passed", "The newest drill passed.", "NIST CP-9(1)", "CIS 11.5"),
  PROOF_CLEAN_UP(
      "Proof", "Sandboxes cleaned up", "No restored data was left behind.", "ISO A.8.13");

  private final String group;
  private final String title;
  private final String demand;
  private final List<String> references;

  CriterionCode(String group, String title, String demand, String... references) {
    this.group = group;
    this.title = title;
    this.demand = demand;
    this.references = List.of(references);
  }

  public String group() {
    return group;
  }

  public String title() {
    return title;
  }

  public String demand() {
    return demand;
  }

  public List<String> references() {
    return references;
  }
}
