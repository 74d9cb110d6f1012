package hardproof.core.plan;

import hardproof.core.findings.Finding;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Findings of one resource that follow from another of them: whoever mends that one need not look at these. The first
 * rule that holds counts.
 */
final class Folding {
  /** By what is the cause, in the order in which it is looked for, what follows from it. */
  private static final Map<String, Set<String>> FOLLOWS = new LinkedHashMap<>();

  static {
    // Without any cover everything follows.
    FOLLOWS.put("cover-protected", Set.of());
    FOLLOWS.put(
        "proof-last-drill",
        Set.of(
            "copies-zero-errors",
            "proof-age",
            "proof-read-back",
            "proof-loss",
            "proof-recovery-time",
            "proof-off-site",
            "proof-not-renewed"));
    FOLLOWS.put(
        "proof-not-renewed",
        Set.of("proof-age", "proof-read-back", "proof-loss", "proof-off-site"));
    FOLLOWS.put(
        "proof-age",
        Set.of("proof-read-back", "proof-loss", "proof-off-site", "proof-recovery-time"));
    FOLLOWS.put("proof-loss", Set.of("proof-off-site"));
    FOLLOWS.put(
        "fresh-on-paper",
        Set.of("fresh-exposure-worst", "fresh-attainment", "fresh-exposure-now", "fresh-window"));
    FOLLOWS.put(
        "sound-chain", Set.of("fresh-exposure-now", "fresh-exposure-worst", "fresh-attainment"));
    FOLLOWS.put(
        "sound-complete",
        Set.of("sound-skipped", "fresh-exposure-now", "fresh-exposure-worst", "fresh-attainment"));
    FOLLOWS.put(
        "fresh-last-outcomes",
        Set.of("fresh-exposure-now", "fresh-exposure-worst", "fresh-attainment"));
    FOLLOWS.put("fresh-exposure-now", Set.of("fresh-exposure-worst", "fresh-attainment"));
    FOLLOWS.put("fresh-exposure-worst", Set.of("fresh-attainment"));
    FOLLOWS.put("history-on-paper", Set.of("history-reach", "history-slots"));
    FOLLOWS.put("history-reach", Set.of("history-slots"));
    FOLLOWS.put(
        "copies-number",
        Set.of(
            "copies-media", "copies-off-site", "copies-offline-or-locked", "copies-independent"));
    FOLLOWS.put("copies-off-site", Set.of("copies-offline-or-locked"));
    FOLLOWS.put("safe-locked", Set.of("safe-lock-retention", "copies-offline-or-locked"));
  }

  private Folding() {}

  /**
   * By the finding that is the cause, those of the same resource that follow from it; a cause that nothing follows from
   * has none.
   *
   * @param findings open ones, of any resources
   */
  static Map<Finding, List<Finding>> of(List<Finding> findings) {
    Map<String, Map<String, Finding>> bySubject = new LinkedHashMap<>();
    findings.forEach(f -> bySubject
        .computeIfAbsent(f.about().type() + " " + f.about().subject(), k -> new LinkedHashMap<>())
        .put(f.code(), f));
    Map<Finding, List<Finding>> folded = new LinkedHashMap<>();
    bySubject.values().forEach(own -> fold(own, folded));
    return folded;
  }

  private static void fold(Map<String, Finding> own, Map<Finding, List<Finding>> folded) {
    Map<String, String> under = new HashMap<>();
    FOLLOWS.forEach((cause, follows) -> {
      if (own.containsKey(cause) && own.get(cause).unprotected()) {
        own.keySet().stream().filter(c -> !c.equals(cause)).forEach(c -> under.put(c, cause));
      } else if (own.containsKey(cause)) {
        follows.stream().filter(own::containsKey).forEach(c -> under.putIfAbsent(c, cause));
      }
    });
    own.forEach((code, finding) -> {
      String root = code;
      while (under.containsKey(root)) {
        root = under.get(root);
      }
      List<Finding> list = folded.computeIfAbsent(own.get(root), k -> new ArrayList<>());
      if (!root.equals(code)) {
        list.add(finding);
      }
    });
  }
}
