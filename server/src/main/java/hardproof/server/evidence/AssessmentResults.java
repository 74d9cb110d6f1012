package hardproof.server.evidence;

import hardproof.core.controls.ControlResult;
import hardproof.core.controls.ControlState;
import hardproof.core.controls.Framework;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.wording.Wording;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * The outcomes by control as assessment results of OSCAL 1.1.3. Each control has an observation; those of NIST SP
 * 800-53, whose ids the language knows, also have a finding where one can be made: what can't be judged is observed and
 * not found.
 */
final class AssessmentResults {
  private static final String OSCAL = "1.1.3";
  private static final JsonMapper JSON =
      JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

  private final FactsJson facts;
  private final List<ControlResult> controls;

  private AssessmentResults(FactsJson facts, List<ControlResult> controls) {
    this.facts = facts;
    this.controls = controls;
  }

  /** The same facts always give the same bytes. */
  static byte[] of(FactsJson facts, List<ControlResult> controls) {
    return JSON.writeValueAsBytes(
        Map.of("assessment-results", new AssessmentResults(facts, controls).root()));
  }

  private Map<String, Object> root() {
    Map<String, Object> root = new LinkedHashMap<>();
    root.put("uuid", uuid("results document"));
    Map<String, Object> metadata = new LinkedHashMap<>();
    metadata.put("title", facts.title());
    metadata.put("last-modified", facts.asAt().toString());
    metadata.put("version", facts.asAt().toString());
    metadata.put("oscal-version", OSCAL);
    root.put("metadata", metadata);
    // There is no plan in this language; what is held to is the standard among the facts.
    root.put("import-ap", Map.of("href", "#" + uuid("standard")));
    root.put("results", List.of(result()));
    root.put("back-matter", Map.of("resources", List.of(resource())));
    return root;
  }

  private Map<String, Object> resource() {
    Map<String, Object> resource = new LinkedHashMap<>();
    resource.put("uuid", uuid("standard"));
    resource.put("title", "Standard " + facts.standard().title() + " and the facts held to it");
    resource.put("rlinks", List.of(Map.of("href", PackBuilder.FACTS)));
    return resource;
  }

  private Map<String, Object> result() {
    Map<String, Object> result = new LinkedHashMap<>();
    result.put("uuid", uuid("result"));
    result.put("title", facts.title());
    result.put(
        "description",
        "Recoverability of " + facts.scope().words() + " by the standard "
            + facts.standard().title() + ", computed by Hard Proof from facts.json.");
    result.put("start", facts.history().watched().from().toString());
    result.put("end", facts.asAt().toString());
    List<Map<String, Object>> looked = controls.stream()
        .filter(c -> nist(c) && c.state() != ControlState.NOT_LOOKED_AT)
        .map(c -> Map.<String, Object>of("control-id", id(c)))
        .toList();
    result.put(
        "reviewed-controls",
        Map.of("control-selections", List.of(Map.of("include-controls", looked))));
    result.put("observations", controls.stream().map(this::observation).toList());
    List<Map<String, Object>> findings = new ArrayList<>();
    controls.stream().filter(AssessmentResults::found).map(this::finding).forEach(findings::add);
    if (!findings.isEmpty()) {
      result.put("findings", findings);
    }
    return result;
  }

  private static boolean nist(ControlResult c) {
    return c.control().framework() == Framework.NIST_800_53;
  }

  /** Whether it can be said to be satisfied or not. */
  private static boolean found(ControlResult c) {
    return nist(c)
        && switch (c.state()) {
          case SATISFIED, OTHER_THAN_SATISFIED, EXCEPTED -> true;
          case NOT_ENOUGH_DATA, NOT_APPLICABLE, NOT_LOOKED_AT -> false;
        };
  }

  private Map<String, Object> observation(ControlResult c) {
    Map<String, Object> observation = new LinkedHashMap<>();
    observation.put("uuid", uuid("observation " + c.control().code()));
    observation.put("title", c.control().reference() + " " + c.control().title());
    observation.put("description", c.state().words() + ": " + tally(c));
    observation.put("methods", List.of(c.criteria().isEmpty() ? "UNKNOWN" : "TEST"));
    observation.put("collected", facts.asAt().toString());
    observation.put("remarks", "Not looked at: " + c.control().notLookedAt() + ".");
    return observation;
  }

  private Map<String, Object> finding(ControlResult c) {
    Map<String, Object> status = new LinkedHashMap<>();
    status.put("state", c.state() == ControlState.SATISFIED ? "satisfied" : "not-satisfied");
    status.put(
        "reason",
        switch (c.state()) {
          case SATISFIED -> "pass";
          case OTHER_THAN_SATISFIED -> "fail";
          default -> "other";
        });
    status.put("remarks", c.state().words());
    Map<String, Object> target = new LinkedHashMap<>();
    target.put("type", "statement-id");
    target.put("target-id", id(c) + "_smt");
    target.put("status", status);
    Map<String, Object> finding = new LinkedHashMap<>();
    finding.put("uuid", uuid("finding " + c.control().code()));
    finding.put("title", c.control().reference() + " " + c.control().title());
    finding.put("description", tally(c));
    finding.put("target", target);
    finding.put(
        "related-observations",
        List.of(Map.of("observation-uuid", uuid("observation " + c.control().code()))));
    return finding;
  }

  /** What its outcomes come to, in words. */
  static String tally(ControlResult c) {
    if (c.criteria().isEmpty()) {
      return "no criterion serves it";
    }
    List<String> parts = new ArrayList<>();
    for (OutcomeState state : OutcomeState.values()) {
      if (c.whole().count(state) > 0) {
        parts.add(c.whole().count(state) + " " + state.code().replace('-', ' '));
      }
    }
    String outcomes = parts.isEmpty() ? "nothing it is asked of" : Wording.list(parts);
    Double share = c.whole().shareMet();
    return outcomes
        + (share == null ? "" : "; met " + Wording.share(share) + " of the time looked");
  }

  /** As OSCAL's catalogue of SP 800-53 writes it: cp-9.1 for CP-9(1). */
  private static String id(ControlResult c) {
    return c.control()
        .reference()
        .substring("NIST ".length())
        .toLowerCase(Locale.ROOT)
        .replace('(', '.')
        .replace(")", "");
  }

  private String uuid(String what) {
    return version5(
            new UUID(0x6ba7b8119dad11d1L, 0x80b400c04fd430c8L),
            facts.scope().words() + "\n" + facts.asAt() + "\n" + facts.knownAt() + "\n"
                + facts.title() + "\n" + what)
        .toString();
  }

  /** A UUID of version 5 by RFC 9562, section 5.5: the same name always has the same one. */
  static UUID version5(UUID namespace, String name) {
    try {
      MessageDigest sha1 = MessageDigest.getInstance("SHA-1");
      sha1.update(ByteBuffer.allocate(16)
          .putLong(namespace.getMostSignificantBits())
          .putLong(namespace.getLeastSignificantBits())
          .array());
      ByteBuffer hash = ByteBuffer.wrap(sha1.digest(name.getBytes(StandardCharsets.UTF_8)));
      return new UUID(
          hash.getLong() & ~0xF000L | 0x5000L,
          hash.getLong() & 0x3FFFFFFFFFFFFFFFL | 0x8000000000000000L);
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}
