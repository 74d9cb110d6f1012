package hardproof.core.criteria;

import hardproof.core.copies.CopyCount.Figure;
import hardproof.core.copies.CopyRule;
import hardproof.core.wording.Wording;
import java.util.List;

/** Are enough of them elsewhere? */
final class CopiesOffSite extends CopyFigure {
  CopiesOffSite() {
    super(
        Figure.OFF_SITE,
        "Off-site",
        "Enough copies at another site than the resource's.",
        List.of("NIST CP-6", "NIST CP-6(1)", "CIS 11.4"),
        Parameter.OFF_SITE);
  }

  @Override
  int demanded(CopyRule rule) {
    return rule.offSite();
  }

  @Override
  String words(int have) {
    return Wording.count(have, "copy", "copies") + " off-site";
  }

  @Override
  String counted(Subject s) {
    return s.resource().site() == null
        ? "the resource's own site is not known"
        : "at another site than " + s.resource().site() + ofFreshPoints(s);
  }
}
