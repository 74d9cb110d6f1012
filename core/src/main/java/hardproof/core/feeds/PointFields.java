package hardproof.core.feeds;

import static hardproof.core.feeds.FieldType.COUNT;
import static hardproof.core.feeds.FieldType.NAME;
import static hardproof.core.feeds.FieldType.PAST;
import static hardproof.core.feeds.FieldType.SIZE;
import static hardproof.core.feeds.FieldType.YES_NO;
import static hardproof.core.feeds.FieldType.code;

import hardproof.core.points.Consistency;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.points.SourceRole;

/** The fields of a recovery point. */
final class PointFields {
  static final FactKind<RecoveryPoint> KIND = FactKind.of("recovery_point", f -> {
    var key = f.key("key", NAME, RecoveryPoint::key);
    var resource = f.required("resource", NAME, RecoveryPoint::resource);
    var policy = f.optional("policy", NAME, RecoveryPoint::policy);
    var form = f.required("form", code(Form.class), RecoveryPoint::form);
    var basedOn = f.optional("based_on", NAME, RecoveryPoint::basedOn);
    var data = f.optional("data_time", PAST, RecoveryPoint::dataTime);
    var started = f.optional("started", PAST, RecoveryPoint::started);
    var available = f.optional("available", PAST, RecoveryPoint::available);
    var outcome = f.required("outcome", code(PointOutcome.class), RecoveryPoint::outcome);
    var consistency =
        f.optional("consistency", code(Consistency.class), RecoveryPoint::consistency);
    var preStep = f.optional("pre_step", YES_NO, RecoveryPoint::preStep);
    var role = f.optional("source_role", code(SourceRole.class), RecoveryPoint::sourceRole);
    var size = f.optional("size", "size_bytes", SIZE, RecoveryPoint::sizeBytes);
    var encrypted = f.optional("encrypted", YES_NO, RecoveryPoint::encrypted);
    var skipped = f.optional("skipped_items", COUNT, RecoveryPoint::skippedItems);
    f.chain(basedOn, "is based on a chain that leads back to itself");
    f.speaksOf(RecoveryPoint::available);
    f.check((v, r) -> {
      boolean given = v.of(data) != null;
      if (!given && r.text("data_time") == null && r.text("started") == null) {
        r.reject("data_time", "is empty, and so is started: age can't be counted");
      }
      r.notBefore(v, available, given ? data : started, "is before the data time ");
      r.notBefore(v, available, started, "is before it was started ");
      if (v.of(basedOn) != null && v.of(basedOn).equals(v.of(key))) {
        r.reject("based_on", "names the point itself");
      }
    });
    return v -> new RecoveryPoint(
        v.of(key),
        v.of(resource),
        v.of(policy),
        v.of(form),
        v.of(basedOn),
        new RecoveryPoint.Times(v.or(data, v.of(started)), v.of(started), v.of(available)),
        v.of(outcome),
        new RecoveryPoint.Taken(v.or(consistency, Consistency.UNKNOWN), v.of(preStep), v.of(role)),
        new RecoveryPoint.Content(v.of(size), v.of(encrypted), v.of(skipped)),
        v.feed());
  });

  private PointFields() {}
}
