package hardproof.core.feeds;

import static hardproof.core.feeds.FieldType.FREE;
import static hardproof.core.feeds.FieldType.NAME;
import static hardproof.core.feeds.FieldType.SELECTOR;
import static hardproof.core.feeds.FieldType.TEXT;
import static hardproof.core.feeds.FieldType.TIME;

import hardproof.core.estate.AcceptedException;

/** The fields of an exception. What a file says of its approval is kept as the claim it is. */
final class ExceptionFields {
  static final FactKind<AcceptedException> KIND = FactKind.of("exception", f -> {
    var key = f.key("key", NAME, AcceptedException::key);
    var scope = f.optional("scope", SELECTOR, AcceptedException::scope);
    var criterion = f.optional("criterion", TEXT, AcceptedException::criterion);
    var reason = f.required("reason", FREE, AcceptedException::reason);
    var proposedBy = f.optional("proposed_by", TEXT, AcceptedException::proposedBy);
    var approvedBy = f.optional(
        "approved_by", TEXT, e -> e.approvedBy() == null ? e.claimedApprover() : e.approvedBy());
    var from = f.optional("from", "from_time", TIME, AcceptedException::from);
    var until = f.optional("until", "until_time", TIME, AcceptedException::until);
    var refusedBy = f.ours("refused_by", TEXT, AcceptedException::refusedBy);
    f.check((v, r) -> {
      if (r.text("scope") == null) {
        r.reject("scope", "is empty: an exception for everything is refused");
      }
      if (v.of(from) != null && v.of(until) != null && !v.of(until).isAfter(v.of(from))) {
        r.reject("until", "is not after from " + v.of(from));
      }
      if (v.of(approvedBy) != null && v.of(approvedBy).equalsIgnoreCase(v.of(proposedBy))) {
        r.reject("approved_by", "is the proposer: another person must approve");
      }
    });
    return v -> new AcceptedException(
        v.of(key),
        v.of(scope),
        v.of(criterion),
        v.of(reason),
        v.of(proposedBy),
        v.decidedHere() ? v.of(approvedBy) : null,
        v.of(from),
        v.of(until),
        v.of(refusedBy),
        v.decidedHere() ? null : v.of(approvedBy));
  });

  private ExceptionFields() {}
}
