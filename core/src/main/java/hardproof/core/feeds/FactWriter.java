package hardproof.core.feeds;

import hardproof.core.copies.Copy;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Job;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Selector;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Coded;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * Writes facts back as rows of the bundle, each value in one spelling (times RFC 3339 in UTC,
 * durations ISO 8601, sizes in bytes), so that equal facts are equal rows and {@link FactReader}
 * reads the same fact again.
 *
 * @param selectors writes a selector as JSON
 */
public record FactWriter(Function<Selector, String> selectors) {

  private static final class Row {
    private final Map<String, String> values = new LinkedHashMap<>();

    Row put(String field, Object value) {
      if (value instanceof Coded code) {
        values.put(field, code.code());
      } else if (value instanceof List<?> list) {
        if (!list.isEmpty()) {
          values.put(field, list.stream().map(Object::toString).collect(Collectors.joining(";")));
        }
      } else if (value instanceof Map<?, ?> map) {
        if (!map.isEmpty()) {
          values.put(
              field,
              map.entrySet().stream()
                  .map(e -> e.getKey() + "=" + e.getValue())
                  .collect(Collectors.joining(";")));
        }
      } else if (value != null) {
        values.put(field, value.toString());
      }
      return this;
    }
  }

  public Map<String, String> row(Store s) {
    return new Row()
        .put("key", s.key())
        .put("name", s.name())
        .put("site", s.site())
        .put("region", s.region())
        .put("medium", s.medium())
        .put("failure_domain", s.failureDomain())
        .put("online", s.online())
        .put("can_lock", s.canLock())
        .put("redundancy", s.redundancy())
        .put("throughput", s.throughput())
        .put("path", s.path())
        .put("delete_approvals", s.deleteApprovals())
        .values;
  }

  public Map<String, String> row(Policy p) {
    return new Row()
        .put("key", p.key())
        .put("name", p.name())
        .put("scope", selectors.apply(p.scope()))
        .put("schedule", p.schedule())
        .put("zone", p.schedule() == null ? null : p.schedule().zone())
        .put("start_window", p.startWindow())
        .put("complete_within", p.completeWithin())
        .put("keep_last", p.retention().last())
        .put("keep_for", p.retention().keepFor())
        .put("keep_weekly", p.retention().weekly())
        .put("keep_monthly", p.retention().monthly())
        .put("keep_yearly", p.retention().yearly())
        .put("consistency", p.consistency())
        .put("encrypted", p.encrypted())
        .put("read_back", p.readBack())
        .put(
            "copy_to",
            p.copyTo().stream().map(t -> t.store() + ":" + t.deadline()).toList())
        .put("copy_window", p.copyWindow() == null ? null : p.copyWindow().text())
        .put("exclude", p.exclude())
        .values;
  }

  public Map<String, String> row(Workload w) {
    return new Row()
        .put("key", w.key())
        .put("name", w.name())
        .put("owner", w.owner())
        .put("tier", w.tier())
        .put("needs", w.needs())
        .put("rpo", w.rpo())
        .put("rto", w.rto())
        .put("rung", w.rung())
        .put("data_class", w.dataClass())
        .put("description", w.description())
        .values;
  }

  public Map<String, String> row(Resource r) {
    return new Row()
        .put("key", r.key())
        .put("name", r.name())
        .put("kind", r.kind())
        .put("workload", r.workload())
        .put("parent", r.parent())
        .put("needs", r.needs())
        .put("site", r.site())
        .put("region", r.region())
        .put("environment", r.environment())
        .put("size", r.sizeBytes())
        .put("daily_change", r.dailyChangeBytes())
        .put("first_seen", r.firstSeen())
        .put("last_seen", r.lastSeen())
        .put("agent_seen", r.agentSeen())
        .put("tags", r.tags())
        .put("important_paths", r.importantPaths())
        .put("credentials_changed", r.credentialsChanged())
        .put("credentials_tested", r.credentialsTested())
        .values;
  }

  public Map<String, String> row(RecoveryPoint p) {
    return new Row()
        .put("key", p.key())
        .put("resource", p.resource())
        .put("policy", p.policy())
        .put("form", p.form())
        .put("based_on", p.basedOn())
        .put("data_time", p.dataTime())
        .put("started", p.started())
        .put("available", p.available())
        .put("outcome", p.outcome())
        .put("consistency", p.consistency())
        .put("pre_step", p.preStep())
        .put("source_role", p.sourceRole())
        .put("size", p.sizeBytes())
        .put("encrypted", p.encrypted())
        .put("skipped_items", p.skippedItems())
        .values;
  }

  public Map<String, String> row(Copy c) {
    return new Row()
        .put("point", c.point())
        .put("store", c.store())
        .put("finished", c.finished())
        .put("state", c.state())
        .put("locked_until", c.lockedUntil())
        .put("expires", c.expires())
        .put("format", c.format())
        .put("place", c.place())
        .put("sha256", c.sha256())
        .put("manifest", c.manifest())
        .put("last_read", c.lastRead())
        .put(
            "last_read_outcome",
            c.lastReadPassed() == null ? null : c.lastReadPassed() ? "passed" : "failed")
        .values;
  }

  public Map<String, String> row(Job j) {
    return new Row()
        .put("key", j.key())
        .put("type", j.type())
        .put("resource", j.resource())
        .put("policy", j.policy())
        .put("store", j.store())
        .put("started", j.started())
        .put("ended", j.ended())
        .put("outcome", j.outcome())
        .put("bytes", j.bytes())
        .put("message", j.message())
        .values;
  }

  public Map<String, String> row(AcceptedException e) {
    return new Row()
        .put("key", e.key())
        .put("scope", selectors.apply(e.scope()))
        .put("criterion", e.criterion())
        .put("reason", e.reason())
        .put("proposed_by", e.proposedBy())
        // As a feed says it: whoever reads it takes it for a claim.
        .put("approved_by", e.approvedBy() == null ? e.claimedApprover() : e.approvedBy())
        .put("from", e.from())
        .put("until", e.until())
        .values;
  }

  /** The row of a fact of any file. */
  public Map<String, String> row(BundleFile type, Object fact) {
    return switch (type) {
      case STORES -> row((Store) fact);
      case POLICIES -> row((Policy) fact);
      case WORKLOADS -> row((Workload) fact);
      case RESOURCES -> row((Resource) fact);
      case POINTS -> row((RecoveryPoint) fact);
      case COPIES -> row((Copy) fact);
      case JOBS -> row((Job) fact);
      case EXCEPTIONS -> row((AcceptedException) fact);
    };
  }
}
