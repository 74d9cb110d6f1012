package hardproof.core.controls;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.wording.Coded;
import java.util.Arrays;
import java.util.List;

/**
 * The public controls that an assessor of backups asks about. Numbers are from the design, titles from memory; what is
 * not looked at is our own reading of each, put so that nobody takes silence for a pass.
 */
public enum PublicControl implements Coded {
  CP_4(
      Framework.NIST_800_53,
      "NIST CP-4",
      "Contingency plan testing",
      "the written plan, exercises with people, and what was learnt from them"),
  CP_6(
      Framework.NIST_800_53,
      "NIST CP-6",
      "Alternate storage site",
      "agreements with the other site, and whether its safeguards equal those of the first"),
  CP_6_1(
      Framework.NIST_800_53,
      "NIST CP-6(1)",
      "Separation from primary site",
      "which threats both sites share; a site is what the facts call one"),
  CP_9(
      Framework.NIST_800_53,
      "NIST CP-9",
      "System backup",
      "whether the list of resources is complete, and backups of documents that no feed tells of"),
  CP_9_1(
      Framework.NIST_800_53,
      "NIST CP-9(1)",
      "Testing for reliability and integrity",
      "media that no engine can read here"),
  CP_9_2(
      Framework.NIST_800_53,
      "NIST CP-9(2)",
      "Test restoration using sampling",
      "whether the functions that were restored are the ones the plan names"),
  CP_9_3(
      Framework.NIST_800_53,
      "NIST CP-9(3)",
      "Separate storage for critical information",
      "fire-rated containers and other properties of the place itself"),
  CP_9_5(
      Framework.NIST_800_53,
      "NIST CP-9(5)",
      "Transfer to alternate storage site",
      "the rate of the transfer itself; when a copy arrived is looked at"),
  CP_9_6(
      Framework.NIST_800_53,
      "NIST CP-9(6)",
      "Redundant secondary system",
      "all of it: a second system that takes over is no backup, and no fact tells of one"),
  CP_9_7(
      Framework.NIST_800_53,
      "NIST CP-9(7)",
      "Dual authorization for deletion or destruction",
      "all of it: who may delete backups in other systems is in no fact"),
  CP_9_8(
      Framework.NIST_800_53,
      "NIST CP-9(8)",
      "Cryptographic protection",
      "the strength of ciphers and the keeping of keys; encryption is a fact that a feed tells"),
  CP_10(
      Framework.NIST_800_53,
      "NIST CP-10",
      "System recovery and reconstitution",
      "going back to normal work afterwards"),
  CP_10_4(
      Framework.NIST_800_53,
      "NIST CP-10(4)",
      "Restore within time period",
      "the time people take before a restore begins"),
  SI_7(
      Framework.NIST_800_53,
      "NIST SI-7",
      "Software, firmware, and information integrity",
      "everything but backups: this control is wider than what is looked at here"),
  SP_800_34(
      Framework.NIST_800_34,
      "NIST SP 800-34 r1",
      "Contingency planning guide",
      "everything but objectives for time and loss: the guide is about plans and people"),
  CIS_11_1(
      Framework.CIS,
      "CIS 11.1",
      "Establish and maintain a data recovery process",
      "the written process and its yearly review"),
  CIS_11_2(
      Framework.CIS,
      "CIS 11.2",
      "Perform automated backups",
      "whether a backup was begun by a person or by itself"),
  CIS_11_3(
      Framework.CIS,
      "CIS 11.3",
      "Protect recovery data",
      "who can read what is stored; encryption and locks are looked at"),
  CIS_11_4(
      Framework.CIS,
      "CIS 11.4",
      "Establish and maintain an isolated instance of recovery data",
      "whether accounts of production can reach the isolated copy, beyond what the facts say of its store"),
  CIS_11_5(
      Framework.CIS,
      "CIS 11.5",
      "Test data recovery",
      "nothing of its words; a drill shows the point it restored and no other"),
  PR_DS_11(
      Framework.CSF,
      "CSF PR.DS-11",
      "Backups of data are created, protected, maintained, and tested",
      "nothing of its words, as far as feeds tell of the backups"),
  RC_RP_03(
      Framework.CSF,
      "CSF RC.RP-03",
      "The integrity of backups is verified before using them for restoration",
      "restores in earnest, which are not begun here"),
  A_5_30(
      Framework.ISO_27001,
      "ISO A.5.30",
      "ICT readiness for business continuity",
      "continuity plans, their owners and their exercises"),
  A_8_13(
      Framework.ISO_27001,
      "ISO A.8.13",
      "Information backup",
      "the written policy; what it demands is the standard that is held to here"),
  A_8_14(
      Framework.ISO_27001,
      "ISO A.8.14",
      "Redundancy of information processing facilities",
      "everything but stores of backups: second machines and lines are in no fact");

  private final Framework framework;
  private final String reference;
  private final String title;
  private final String notLookedAt;

  PublicControl(Framework framework, String reference, String title, String notLookedAt) {
    this.framework = framework;
    this.reference = reference;
    this.title = title;
    this.notLookedAt = notLookedAt;
  }

  public Framework framework() {
    return framework;
  }

  /** As criteria name it. */
  public String reference() {
    return reference;
  }

  public String title() {
    return title;
  }

  /** What of it nothing here looks at, as the rest of a sentence. */
  public String notLookedAt() {
    return notLookedAt;
  }

  /** The criteria that serve it; none where nothing here looks at it. */
  public List<CriterionCode> criteria() {
    return Arrays.stream(CriterionCode.values())
        .filter(c -> c.references().contains(reference))
        .toList();
  }
}
