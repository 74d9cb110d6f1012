package hardproof.core.feeds;

import static hardproof.core.feeds.FieldType.COPY_TARGETS;
import static hardproof.core.feeds.FieldType.DURATION;
import static hardproof.core.feeds.FieldType.HOURS;
import static hardproof.core.feeds.FieldType.LIST;
import static hardproof.core.feeds.FieldType.NAME;
import static hardproof.core.feeds.FieldType.SELECTOR;
import static hardproof.core.feeds.FieldType.TEXT;
import static hardproof.core.feeds.FieldType.YES_NO;
import static hardproof.core.feeds.FieldType.ZONE;
import static hardproof.core.feeds.FieldType.code;
import static hardproof.core.feeds.FieldType.schedule;
import static hardproof.core.feeds.FieldType.whole;

import hardproof.core.estate.Policy;
import hardproof.core.estate.Selector;
import hardproof.core.points.Consistency;
import hardproof.core.retention.Retention;

/** The fields of a policy. */
final class PolicyFields {
  static final FactKind<Policy> KIND = FactKind.of("policy", f -> {
    var key = f.key("key", NAME, Policy::key);
    var name = f.required("name", TEXT, Policy::name);
    var scope = f.optional("scope", SELECTOR, Policy::scope);
    var schedule = f.optional("schedule", schedule("zone"), Policy::schedule);
    f.optional("zone", ZONE, p -> p.schedule() == null ? null : p.schedule().zone());
    var startWindow = f.optional("start_window", "start_window_ms", DURATION, Policy::startWindow);
    var completeWithin =
        f.optional("complete_within", "complete_within_ms", DURATION, Policy::completeWithin);
    var last = f.optional("keep_last", whole(0, 1_000_000), p -> p.retention().last());
    var keepFor =
        f.optional("keep_for", "keep_for_ms", DURATION, p -> p.retention().keepFor());
    var weekly = f.optional("keep_weekly", whole(0, 5_000), p -> p.retention().weekly());
    var monthly = f.optional("keep_monthly", whole(0, 1_200), p -> p.retention().monthly());
    var yearly = f.optional("keep_yearly", whole(0, 100), p -> p.retention().yearly());
    var consistency = f.optional("consistency", code(Consistency.class), Policy::consistency);
    var encrypted = f.optional("encrypted", YES_NO, Policy::encrypted);
    var readBack = f.optional("read_back", YES_NO, Policy::readBack);
    var copyTo = f.optional("copy_to", COPY_TARGETS, Policy::copyTo);
    var copyWindow = f.optional("copy_window", HOURS, Policy::copyWindow);
    var exclude = f.optional("exclude", LIST, Policy::exclude);
    f.check((v, r) -> {
      if (v.of(completeWithin) != null && v.of(completeWithin).isZero()) {
        r.reject("complete_within", "is nothing: no job could ever be done in it");
      }
    });
    return v -> new Policy(
        v.of(key),
        v.of(name),
        v.or(scope, Selector.EVERYTHING),
        v.of(schedule),
        new Policy.JobWindow(v.of(startWindow), v.of(completeWithin)),
        new Retention(v.of(last), v.of(keepFor), v.of(weekly), v.of(monthly), v.of(yearly)),
        v.of(consistency),
        v.of(encrypted),
        v.of(readBack),
        v.of(copyTo),
        v.of(copyWindow),
        v.of(exclude));
  });

  private PolicyFields() {}
}
