package hardproof.server.findings;

import hardproof.core.proof.Evaluation;
import hardproof.core.wording.WrongValue;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Differences;
import hardproof.server.proof.Evaluations;
import io.swagger.v3.oas.annotations.Operation;
import java.time.Instant;
import java.util.List;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What came out otherwise between two instants, and how a verdict moved. */
@RestController
@RequestMapping("/api")
public class DifferenceController {

  private final Evaluations evaluations;
  private final FindingLog log;

  DifferenceController(Evaluations evaluations, FindingLog log) {
    this.evaluations = evaluations;
    this.log = log;
  }

  @Operation(summary = "What changed between two instants")
  @GetMapping("/differences")
  Differences differences(
      @RequestParam Instant from,
      @RequestParam(required = false) Instant to,
      @RequestParam(required = false) String knownAt) {
    AsAt when = new AsAt(to, knownAt).usuallyHindsight();
    Evaluation before = evaluations.at(when.at(from)).evaluation();
    Evaluation after = evaluations.at(when).evaluation();
    if (after.asAt().isBefore(before.asAt())) {
      throw new WrongValue("the period ends before it begins: choose from before to");
    }
    return Differences.of(before, after);
  }

  /** How the verdict of a workload moved, oldest first. */
  @Operation(summary = "How the verdict of a workload moved")
  @GetMapping("/workloads/{key}/verdicts")
  List<FindingLog.VerdictEvent> verdicts(@PathVariable String key, @ParameterObject AsAt asAt) {
    Instant until = evaluations.at(asAt).estate().asAt();
    return log.verdicts(key, Instant.EPOCH, until);
  }
}
