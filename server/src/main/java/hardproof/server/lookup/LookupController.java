package hardproof.server.lookup;

import hardproof.core.findings.Finding;
import hardproof.core.findings.Findings;
import hardproof.core.lookup.Hit;
import hardproof.core.lookup.Lookup;
import hardproof.core.proof.Evaluation;
import hardproof.core.wording.WrongValue;
import hardproof.server.integrity.ReadBackStore;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import io.swagger.v3.oas.annotations.Operation;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Finds anything by what it is called. */
@RestController
@RequestMapping("/api")
class LookupController {
  private static final int LONGEST = 200;

  private final Evaluations evaluations;
  private Evaluation last;
  private List<Finding> findings = List.of();

  LookupController(Evaluations evaluations) {
    this.evaluations = evaluations;
  }

  /**
   * Something that was found.
   *
   * @param link where it is, within the page
   */
  record HitView(
      Hit.Kind kind,
      String key,
      String name,
      String detail,
      String why,
      @Nullable String workload,
      String link) {
    static HitView of(Hit h) {
      return new HitView(h.kind(), h.key(), h.name(), h.detail(), h.why(), h.workload(), link(h));
    }

    private static String link(Hit h) {
      return switch (h.kind()) {
        case WORKLOAD, RESOURCE, POINT ->
          "/board?w=" + encoded(h.workload() == null ? h.key() : h.workload());
        case DRILL ->
          h.key().startsWith(ReadBackStore.RUN)
              ? "/integrity"
              : "/drills?tab=done&run=" + encoded(h.key());
        case FINDING -> "/findings?finding=" + encoded(h.key());
        case STORE -> "/integrity";
        case POLICY -> "/criteria?part=policies";
        case FEED -> "/feeds";
      };
    }

    private static String encoded(String key) {
      return URLEncoder.encode(key, StandardCharsets.UTF_8);
    }
  }

  @Operation(
      summary =
          "Whatever is called so: workloads, resources, points, drills, findings, stores, policies, feeds")
  @GetMapping("/lookup")
  List<HitView> find(@RequestParam String q, @ParameterObject AsAt asAt) {
    if (q.length() > LONGEST) {
      throw new WrongValue("at most " + LONGEST + " characters are looked for");
    }
    Evaluated evaluated = evaluations.at(asAt);
    return Lookup.find(evaluated.evaluation(), evaluated.estate(), findings(evaluated), q).stream()
        .map(HitView::of)
        .toList();
  }

  /** Worked out once for an evaluation: a letter more is typed every tenth of a second. */
  private synchronized List<Finding> findings(Evaluated evaluated) {
    if (last != evaluated.evaluation()) {
      findings = Findings.of(evaluated.evaluation(), evaluated.estate(), Map.of());
      last = evaluated.evaluation();
    }
    return findings;
  }
}
