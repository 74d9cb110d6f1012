package hardproof.core.criteria;

import hardproof.core.copies.CopyCount.Figure;
import hardproof.core.copies.CopyRule;
import hardproof.core.wording.Wording;
import java.util.List;

/** Could an intruder alter them all? */
final class CopiesOfflineOrLocked extends CopyFigure {
  CopiesOfflineOrLocked() {
    super(
        Figure.OFFLINE_OR_LOCKED,
        "Offline or locked",
        "Enough copies that an intruder could not alter.",
        List.of("CIS 11.4", "NIST CP-9(8)"),
        Parameter.OFFLINE_OR_LOCKED);
  }

  @Override
  int demanded(CopyRule rule) {
    return rule.offlineOrLocked();
  }

  @Override
  String words(int have) {
    return Wording.count(have, "copy", "copies") + " offline or locked";
  }

  @Override
  String counted(Subject s) {
    return "store offline, or locked until later than the as-at instant" + ofFreshPoints(s);
  }
}
