package hardproof.server.proof;

import hardproof.core.criteria.Subject;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Selector;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.BundleFile;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import hardproof.server.facts.FactStore;
import hardproof.server.facts.SelectorJson;
import hardproof.server.web.NotFound;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.Parameter;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.Schema;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Board, case files, exposure curves and the facts under them. */
@RestController
@RequestMapping("/api")
class ProofController {
  private final Evaluations evaluations;
  private final FactStore facts;
  private final BoardAnswers boards;

  ProofController(Evaluations evaluations, FactStore facts, BoardAnswers boards) {
    this.evaluations = evaluations;
    this.facts = facts;
    this.boards = boards;
  }

  /** Of the workloads that have any resource which the selector chooses; each is judged as a whole. */
  @Operation(summary = "Every workload with its verdict as at an instant")
  @GetMapping("/board")
  @ApiResponse(
      responseCode = "200",
      content = @Content(schema = @Schema(implementation = BoardView.class)))
  ResponseEntity<Object> board(
      @ParameterObject AsAt asAt,
      @RequestParam(required = false) String selector,
      @Parameter(hidden = true) @RequestHeader(name = HttpHeaders.ACCEPT_ENCODING, required = false)
          String encodings) {
    Evaluated evaluated = evaluations.at(asAt);
    Selector which = SelectorJson.asked(selector);
    if (!which.equals(Selector.EVERYTHING)) {
      return ResponseEntity.ok(
          BoardView.of(evaluated.evaluation().about(evaluated.estate().matching(which))));
    }
    if (encodings == null || !encodings.contains("gzip")) {
      return ResponseEntity.ok(BoardView.of(evaluated.evaluation()));
    }
    return ResponseEntity.ok()
        .contentType(MediaType.APPLICATION_JSON)
        .header(HttpHeaders.CONTENT_ENCODING, "gzip")
        .header(HttpHeaders.VARY, HttpHeaders.ACCEPT_ENCODING)
        .body(boards.gzipped(evaluated));
  }

  @Operation(summary = "The case file of a workload")
  @GetMapping("/workloads/{key}")
  CaseView workload(@PathVariable String key, @ParameterObject AsAt asAt) {
    Evaluated evaluated = evaluations.at(asAt);
    WorkloadResult workload = evaluated.evaluation().workload(key);
    if (workload == null) {
      throw new NotFound("No workload '" + key + "' is known"
          + (asAt.asAt() == null ? "." : " as at " + asAt.asAt() + "."));
    }
    return CaseView.of(evaluated, workload);
  }

  /** A resource as a choice. {@code workload} is the workload's name. */
  record ResourceLine(
      String key, String name, Kind kind, @Nullable String workload) {}

  /** Every resource, by name. */
  @Operation(summary = "Every resource by key and name")
  @GetMapping("/resources")
  List<ResourceLine> resources(@ParameterObject AsAt asAt) {
    Estate estate = evaluations.at(asAt).estate();
    return estate.facts().resources().stream()
        .map(r -> {
          Workload workload = estate.workload(r.workload());
          return new ResourceLine(
              r.key(), r.name(), r.kind(), workload == null ? null : workload.name());
        })
        .sorted(Comparator.comparing(ResourceLine::name).thenComparing(ResourceLine::key))
        .toList();
  }

  @Operation(summary = "Exposure of a resource over a period")
  @GetMapping("/resources/{key}/exposure")
  ExposureView exposure(
      @PathVariable String key,
      @RequestParam(required = false) Instant from,
      @RequestParam(required = false) Instant to,
      @ParameterObject AsAt asAt) {
    Evaluated evaluated = evaluations.at(asAt);
    Resource resource = resource(key, evaluated);
    return exposure(from, to, evaluated, resource);
  }

  private static Resource resource(String key, Evaluated evaluated) {
    Resource resource = evaluated.estate().resource(key);
    if (resource == null) {
      throw new NotFound("No resource '" + key + "' is known.");
    }
    return resource;
  }

  private static ExposureView exposure(
      Instant from, Instant to, Evaluated evaluated, Resource resource) {
    Subject subject = new Subject(evaluated.estate(), evaluated.evaluation().standard(), resource);
    Instant end = to == null || to.isAfter(subject.asAt()) ? subject.asAt() : to;
    Instant start = from == null ? end.minus(ExposureView.USUAL) : from;
    if (!start.isBefore(end)) {
      throw new WrongValue("the period ends before it begins: choose from before to");
    }
    return ExposureView.of(subject, start.toEpochMilli(), end.toEpochMilli());
  }

  /**
   * A fact that an outcome rests on. The key of a copy is its point and its store, as two values.
   */
  @Operation(summary = "A fact and who told of it")
  @GetMapping("/facts/{file}")
  FactStore.FactState fact(@PathVariable String file, @RequestParam List<String> key) {
    BundleFile type = Coded.find(BundleFile.class, file)
        .orElseThrow(() -> new NotFound("'" + file + "' is no kind of fact."));
    return facts.fact(type, key).orElseThrow(() -> new NotFound("This fact is no longer known."));
  }
}
