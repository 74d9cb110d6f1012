package hardproof.core.board;

import hardproof.core.copies.CopyCount;
import hardproof.core.copies.CopyRule;
import hardproof.core.proof.ResourceResult;
import java.util.List;

/** One figure of the copy rule. */
public record CopyFigure(int have, int want, boolean met) {
  private static CopyFigure atLeast(int have, int want) {
    return new CopyFigure(have, want, have >= want);
  }

  /** Copies, media, off-site, offline or locked, and errors, of one resource. */
  public static List<CopyFigure> of(ResourceResult m) {
    CopyCount c = m.copies();
    CopyRule r = m.demand().copyRule();
    return List.of(
        atLeast(c.copies(), r.copies()),
        atLeast(c.media(), r.media()),
        atLeast(c.offSite(), r.offSite()),
        atLeast(c.offlineOrLocked(), r.offlineOrLocked()),
        new CopyFigure(c.errors(), r.errorsAllowed(), c.errors() <= r.errorsAllowed()));
  }

  static long met(ResourceResult m) {
    return of(m).stream().filter(CopyFigure::met).count();
  }
}
