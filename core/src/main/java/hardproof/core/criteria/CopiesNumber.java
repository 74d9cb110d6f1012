package hardproof.core.criteria;

import hardproof.core.copies.CopyCount.Figure;
import hardproof.core.copies.CopyRule;
import hardproof.core.wording.Wording;
import java.util.List;

/** Are there enough copies? */
final class CopiesNumber extends CopyFigure {
  CopiesNumber() {
    super(
        Figure.COPIES,
        "Copies",
        "Enough copies in separate failure domains, production counted.",
        List.of("CIS 11.4"),
        Parameter.COPIES);
  }

  @Override
  int demanded(CopyRule rule) {
    return rule.copies();
  }

  @Override
  String words(int have) {
    return Wording.count(have, "copy", "copies") + " in separate failure domains";
  }

  @Override
  String counted(Subject s) {
    List<String> not = s.copyCount().notCounted();
    return stores(s)
        + (not.isEmpty() ? "" : "; not counted: " + String.join("; ", not))
        + ofFreshPoints(s);
  }
}
