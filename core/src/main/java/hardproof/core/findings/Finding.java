package hardproof.core.findings;

import hardproof.core.criteria.Concern;
import hardproof.core.criteria.FactRef;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Something that is not as it should be.
 *
 * @param unprotected no policy and no point: comes before everything else
 * @param measured for people; null where there is no figure
 * @param over how far measured and demanded lie apart: the larger divided by the smaller, 1 when
 *     there is nothing to divide; infinite when there is nothing at all where something is demanded
 * @param exception key of the exception that accepts it; null when it is open
 */
public record Finding(
    Concern concern,
    About about,
    boolean unprotected,
    String sentence,
    @Nullable String measured,
    String demanded,
    double over,
    List<FactRef> facts,
    @Nullable String exception) {

  /** Of a feed or an exception. */
  static Finding of(
      FindingCode code,
      String subject,
      String sentence,
      String measured,
      String demanded,
      double over) {
    About about = About.of(code.about(), subject);
    List<FactRef> facts = List.of(new FactRef(code.about().facts(), subject));
    return new Finding(code, about, false, sentence, measured, demanded, over, facts, null);
  }

  /** Stays the same while the finding comes and goes. */
  public String key() {
    return code() + ":" + about.subject();
  }

  public String code() {
    return concern.code();
  }

  public boolean open() {
    return exception == null;
  }
}
