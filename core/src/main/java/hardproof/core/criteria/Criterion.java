package hardproof.core.criteria;

import java.util.List;

/** Something that is demanded: one that ships ({@link CriterionCode}) or one of the user's own. */
public interface Criterion {
  /** Stable; never used again for something else. */
  String code();

  String group();

  String title();

  /** What is demanded, in one sentence. */
  String demand();

  /** Public controls it serves. */
  List<String> references();
}
