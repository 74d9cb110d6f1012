package hardproof.server.policies;

import hardproof.core.estate.Policy;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactKinds;
import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.RawRow;
import hardproof.core.feeds.Rejection;
import hardproof.server.facts.Notations;
import hardproof.server.facts.OwnFacts;
import hardproof.server.web.Refused;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** A policy from the fields of the bundle, as people fill them in. */
final class PolicyFields {
  private PolicyFields() {}

  /**
   * @param fields blank ones are not stated
   * @throws Refused with every field that can't be right
   */
  static Policy read(Map<String, String> fields, Instant now) {
    Map<String, String> given = new HashMap<>(fields);
    given.values().removeIf(v -> v == null || v.isBlank());
    List<String> unknown =
        given.keySet().stream().filter(f -> !BundleFile.POLICIES.hasColumn(f)).toList();
    if (!unknown.isEmpty()) {
      throw new Refused("'" + unknown.get(0) + "' is no field of a policy.");
    }
    FactReader reader = new FactReader(OwnFacts.FEED, now, Notations.KEPT);
    FactReader.Read<Policy> read = reader.read(FactKinds.POLICIES, "policy", new RawRow(0, given));
    if (read.fact() == null) {
      throw new Refused(
          String.join(" ", read.rejections().stream().map(PolicyFields::words).toList()));
    }
    return read.fact();
  }

  private static String words(Rejection r) {
    return r.field() + (r.value() == null ? "" : " \"" + r.value() + "\"") + " " + r.reason() + ".";
  }
}
