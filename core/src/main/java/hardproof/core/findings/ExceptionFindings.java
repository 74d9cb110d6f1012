package hardproof.core.findings;

import hardproof.core.estate.AcceptedException;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/** Exceptions in force that end soon, and those that ended lately. */
final class ExceptionFindings {
  private ExceptionFindings() {}

  static Optional<Finding> of(AcceptedException e, Instant asAt) {
    if (e.until() == null || e.approvedBy() == null || e.refusedBy() != null) {
      return Optional.empty();
    }
    Duration left = Duration.between(asAt, e.until());
    boolean over = left.isNegative() || left.isZero();
    if (!over && left.compareTo(Findings.ENDS_SOON) <= 0) {
      return Optional.of(of(e, FindingCode.EXCEPTION_ENDING, left, asAt, "ends in ", ""));
    } else if (over && left.negated().compareTo(Findings.ENDED_LATELY) <= 0) {
      return ended(e, asAt, left);
    }
    return Optional.empty();
  }

  private static Optional<Finding> ended(AcceptedException e, Instant asAt, Duration left) {
    return Optional.of(of(
        e,
        FindingCode.EXCEPTION_ENDED,
        left.negated(),
        asAt,
        "ended ",
        "; what it accepted is judged again"));
  }

  private static Finding of(
      AcceptedException e,
      FindingCode code,
      Duration between,
      Instant asAt,
      String verb,
      String consequence) {
    String when = Wording.duration(between) + (code == FindingCode.EXCEPTION_ENDED ? " ago" : "");
    return Finding.of(
        code,
        e.key(),
        "the exception for " + e.scope().words() + " (" + e.reason() + ") " + verb + when + ", at "
            + Wording.time(e.until(), asAt) + consequence,
        Wording.duration(between),
        null,
        1);
  }
}
