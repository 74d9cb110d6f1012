package hardproof.core.criteria;

import hardproof.core.copies.CopyCount.Figure;
import hardproof.core.copies.CopyRule;
import hardproof.core.wording.Wording;
import java.util.List;

/** Do they lie on enough different media? */
final class CopiesMedia extends CopyFigure {
  CopiesMedia() {
    super(
        Figure.MEDIA,
        "Media",
        "Copies on enough different media, production counted.",
        List.of("NIST CP-9(3)"),
        Parameter.MEDIA);
  }

  @Override
  int demanded(CopyRule rule) {
    return rule.media();
  }

  @Override
  String words(int have) {
    return Wording.count(have, "medium", "media");
  }

  @Override
  String counted(Subject s) {
    return stores(s) + ofFreshPoints(s);
  }
}
