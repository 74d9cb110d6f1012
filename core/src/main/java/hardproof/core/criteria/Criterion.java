package hardproof.core.criteria;

import java.util.List;

/** Something that is demanded: one that ships ({@link CriterionCode}) or one of the user's own. */
public interface Criterion extends Concern {
  /** What is demanded, in one sentence. */
  String demand();

  /** Public controls it serves. */
  List<String> references();
}
