package hardproof.core.controls;

import hardproof.core.wording.Coded;

/** A publication that controls are of. */
public enum Framework implements Coded {
  NIST_800_53("NIST SP 800-53 r5"),
  NIST_800_34("NIST SP 800-34 r1"),
  CIS("CIS Controls v8"),
  CSF("NIST CSF 2.0"),
  ISO_27001("ISO/IEC 27001:2022");

  private final String title;

  Framework(String title) {
    this.title = title;
  }

  public String title() {
    return title;
  }
}
