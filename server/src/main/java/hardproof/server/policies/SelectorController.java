package hardproof.server.policies;

import hardproof.core.estate.Kind;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Selector;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.wording.Coded;
import hardproof.server.facts.SelectorJson;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluations;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What a selector matches, and why. */
@RestController
@RequestMapping("/api")
class SelectorController {
  private static final int SHOWN = 200;

  private final Evaluations evaluations;

  SelectorController(Evaluations evaluations) {
    this.evaluations = evaluations;
  }

  /**
   * What can be selected by, with the values that occur.
   *
   * @param values by field; fields of which every resource has its own value are left out
   */
  record SelectorFields(Map<String, List<String>> values) {}

  @Operation(summary = "Fields that a selector can ask, with the values there are")
  @GetMapping("/selector-fields")
  SelectorFields fields() {
    Estate estate = evaluations.now().estate();
    Map<String, TreeSet<String>> found = emptyFields();
    Map<String, TreeSet<String>> tags = new TreeMap<>();
    addValues(estate, found, tags);
    addKinds(found);
    Map<String, List<String>> values = new LinkedHashMap<>();
    found.forEach((field, some) -> values.put(field, some.stream().limit(SHOWN).toList()));
    tags.forEach((field, some) -> values.put(field, some.stream().limit(SHOWN).toList()));
    return new SelectorFields(values);
  }

  private static Map<String, TreeSet<String>> emptyFields() {
    Map<String, TreeSet<String>> found = new LinkedHashMap<>();
    for (String field : Selector.Condition.FIELDS) {
      found.put(field, new TreeSet<>());
    }
    return found;
  }

  private static void addValues(
      Estate estate, Map<String, TreeSet<String>> found, Map<String, TreeSet<String>> tags) {
    for (Resource r : estate.facts().resources()) {
      add(found, "environment", r.environment());
      add(found, "site", r.site());
      add(found, "region", r.region());
      add(found, "workload", r.workload());
      add(found, "feed", r.feed());
      add(found, "key", r.key());
      Integer tier = estate.tierOf(r);
      add(found, "tier", tier == null ? null : tier.toString());
      r.tags()
          .forEach(
              (k, v) -> tags.computeIfAbsent("tag:" + k, t -> new TreeSet<>()).add(v));
    }
  }

  private static void addKinds(Map<String, TreeSet<String>> found) {
    for (Kind kind : Kind.values()) {
      found.get("kind").add(((Coded) kind).code());
    }
  }

  private static void add(Map<String, TreeSet<String>> found, String field, String value) {
    if (value != null) {
      found.get(field).add(value);
    }
  }

  /** A selector as JSON; empty for every resource. */
  record SelectorText(
      @NotNull String selector,
      @Nullable Instant asAt,
      @Nullable String knownAt) {}

  /**
   * What a selector matches.
   *
   * @param nearly resources that would match if one condition were otherwise
   * @param rows matching ones first, then those that nearly match, then the others
   */
  record SelectorMatches(
      String words, int matched, int nearly, int total, List<SelectorMatch> rows) {}

  /** A resource with why it matches or not. */
  record SelectorMatch(
      String key,
      String name,
      Kind kind,
      @Nullable String workload,
      boolean matches,
      boolean nearly,
      String why) {}

  @Operation(summary = "What a selector picks now")
  @PostMapping("/selector-matches")
  SelectorMatches matches(@Valid @RequestBody SelectorText text) {
    Selector selector = SelectorJson.asked(text.selector());
    return matches(
        selector, evaluations.at(new AsAt(text.asAt(), text.knownAt())).estate());
  }

  static SelectorMatches matches(Selector selector, Estate estate) {
    List<SelectorMatch> rows = new ArrayList<>();
    int matched = 0;
    int nearly = 0;
    for (Resource r : estate.facts().resources()) {
      Selector.Explanation why = selector.explain(r, estate.tierOf(r));
      matched += why.matches() ? 1 : 0;
      nearly += why.nearly() ? 1 : 0;
      Workload workload = estate.workload(r.workload());
      rows.add(row(r, why, workload));
    }
    sort(rows);
    return matches(selector, rows, matched, nearly);
  }

  private static SelectorController.SelectorMatch row(
      Resource r, Selector.Explanation why, Workload workload) {
    return new SelectorMatch(
        r.key(),
        r.name(),
        r.kind(),
        workload == null ? null : workload.name(),
        why.matches(),
        why.nearly(),
        why.sentence());
  }

  private static void sort(List<SelectorMatch> rows) {
    rows.sort(Comparator.comparing((SelectorMatch m) -> m.matches() ? 0 : m.nearly() ? 1 : 2)
        .thenComparing(SelectorMatch::name)
        .thenComparing(SelectorMatch::key));
  }

  private static SelectorMatches matches(
      Selector selector, List<SelectorMatch> rows, int matched, int nearly) {
    return new SelectorMatches(
        selector.words(),
        matched,
        nearly,
        rows.size(),
        rows.stream().limit(SHOWN).toList());
  }
}
