package hardproof.core.feeds;

import static hardproof.core.feeds.FieldType.NAME;
import static hardproof.core.feeds.FieldType.PATH;
import static hardproof.core.feeds.FieldType.SIZE;
import static hardproof.core.feeds.FieldType.TEXT;
import static hardproof.core.feeds.FieldType.YES_NO;
import static hardproof.core.feeds.FieldType.code;
import static hardproof.core.feeds.FieldType.whole;

import hardproof.core.estate.Medium;
import hardproof.core.estate.Redundancy;
import hardproof.core.estate.Store;

/** The fields of a store. */
final class StoreFields {
  static final FactKind<Store> KIND = FactKind.of("store", f -> {
    var key = f.key("key", NAME, Store::key);
    var name = f.required("name", TEXT, Store::name);
    var site = f.optional("site", TEXT, Store::site);
    var region = f.optional("region", TEXT, Store::region);
    var medium = f.required("medium", code(Medium.class), Store::medium);
    var domain = f.optional("failure_domain", TEXT, Store::failureDomain);
    var online = f.optional("online", YES_NO, Store::online);
    var canLock = f.optional("can_lock", YES_NO, Store::canLock);
    var redundancy = f.optional("redundancy", code(Redundancy.class), Store::redundancy);
    var throughput = f.optional("throughput", SIZE, Store::throughput);
    var path = f.optional("path", PATH, Store::path);
    var approvals = f.optional("delete_approvals", whole(0, 100), Store::deleteApprovals);
    f.check((v, r) -> {
      if (v.of(throughput) != null && v.of(throughput) == 0) {
        r.reject("throughput", "is zero: nothing could ever be restored from it");
      }
    });
    return v -> new Store(
        v.of(key),
        v.of(name),
        v.of(site),
        v.of(region),
        v.of(medium),
        v.of(domain),
        v.of(online),
        v.of(canLock),
        v.of(redundancy),
        v.of(throughput),
        v.of(path),
        v.of(approvals));
  });

  private StoreFields() {}
}
