package hardproof.core.feeds;

import static hardproof.core.feeds.FieldType.DURATION;
import static hardproof.core.feeds.FieldType.FREE;
import static hardproof.core.feeds.FieldType.LIST;
import static hardproof.core.feeds.FieldType.NAME;
import static hardproof.core.feeds.FieldType.RUNG;
import static hardproof.core.feeds.FieldType.TEXT;
import static hardproof.core.feeds.FieldType.whole;

import hardproof.core.estate.Workload;

/** The fields of a workload. */
final class WorkloadFields {
  static final FactKind<Workload> KIND = FactKind.of("workload", f -> {
    var key = f.key("key", NAME, Workload::key);
    var name = f.required("name", TEXT, Workload::name);
    var owner = f.optional("owner", TEXT, Workload::owner);
    var tier = f.optional("tier", whole(1, 4), Workload::tier);
    var needs = f.optional("needs", LIST, Workload::needs);
    var rpo = f.optional("rpo", "rpo_ms", DURATION, Workload::rpo);
    var rto = f.optional("rto", "rto_ms", DURATION, Workload::rto);
    var rung = f.optional("rung", RUNG, Workload::rung);
    var dataClass = f.optional("data_class", TEXT, Workload::dataClass);
    var description = f.optional("description", FREE, Workload::description);
    f.needs(Workload::needs);
    f.check((v, r) -> {
      if (v.of(key) != null && v.of(needs).contains(v.of(key))) {
        r.reject("needs", "names the workload itself");
      }
    });
    return v -> new Workload(
        v.of(key),
        v.of(name),
        v.of(owner),
        v.of(tier),
        v.of(needs),
        v.of(rpo),
        v.of(rto),
        v.of(rung),
        v.of(dataClass),
        v.of(description));
  });

  private WorkloadFields() {}
}
