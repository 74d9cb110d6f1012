package hardproof.core.feeds;

import static hardproof.core.feeds.FieldType.FREE;
import static hardproof.core.feeds.FieldType.NAME;
import static hardproof.core.feeds.FieldType.PAST;
import static hardproof.core.feeds.FieldType.SIZE;
import static hardproof.core.feeds.FieldType.code;

import hardproof.core.estate.Job;

/** The fields of a job. */
final class JobFields {
  static final FactKind<Job> KIND = FactKind.of("job", f -> {
    var key = f.key("key", NAME, Job::key);
    var type = f.required("type", code(Job.Type.class), Job::type);
    var resource = f.optional("resource", NAME, Job::resource);
    var policy = f.optional("policy", NAME, Job::policy);
    var store = f.optional("store", NAME, Job::store);
    var started = f.optional("started", PAST, Job::started);
    var ended = f.optional("ended", PAST, Job::ended);
    var outcome = f.required("outcome", code(Job.Result.class), Job::outcome);
    var bytes = f.optional("bytes", SIZE, Job::bytes);
    var message = f.optional("message", FREE, Job::message);
    f.speaksOf(Job::ended);
    f.check((v, r) -> {
      r.notBefore(v, ended, started, "is before it was started ");
      if (r.text("started") == null && r.text("ended") == null) {
        r.reject("started", "is empty, and so is ended: when it ran can't be known");
      }
    });
    return v -> new Job(
        v.of(key),
        v.of(type),
        v.of(resource),
        v.of(policy),
        v.of(store),
        v.of(started),
        v.of(ended),
        v.of(outcome),
        v.of(bytes),
        v.of(message));
  });

  private JobFields() {}
}
