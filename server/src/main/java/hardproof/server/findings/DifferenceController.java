package hardproof.server.findings;

import hardproof.core.criteria.FactRef;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.proof.Difference;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Verdict;
import hardproof.core.wording.WrongValue;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluations;
import io.swagger.v3.oas.annotations.Operation;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
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
  private static final int TURNS_SHOWN = 200;

  private final Evaluations evaluations;
  private final FindingLog log;

  DifferenceController(Evaluations evaluations, FindingLog log) {
    this.evaluations = evaluations;
    this.log = log;
  }

  /**
   * What came out otherwise.
   *
   * @param turned how many outcomes turned; {@code turns} lists the first of them, worse ones first
   */
  public record Differences(
      Instant from, Instant to, List<VerdictMove> moves, int turned, List<OutcomeTurn> turns) {
    public static Differences of(Evaluation before, Evaluation after) {
      List<Difference.Turn> turns = Difference.turns(before, after);
      return new Differences(
          before.asAt(),
          after.asAt(),
          Difference.moves(before, after).stream().map(VerdictMove::of).toList(),
          turns.size(),
          turns.stream().limit(TURNS_SHOWN).map(OutcomeTurn::of).toList());
    }
  }

  /** A workload whose verdict moved; {@code from} or {@code to} absent when it was not there. */
  public record VerdictMove(
      String workload,
      String name,
      @Nullable Integer tier,
      @Nullable Verdict from,
      @Nullable Verdict to,
      boolean worse,
      String because,
      List<FactRef> facts) {
    static VerdictMove of(Difference.Move m) {
      return new VerdictMove(
          m.workload(), m.name(), m.tier(), m.from(), m.to(), m.worse(), m.because(), m.facts());
    }
  }

  /** An outcome whose state turned. */
  public record OutcomeTurn(
      String workload,
      String resource,
      String name,
      String criterion,
      String title,
      OutcomeState from,
      OutcomeState to,
      boolean worse,
      String sentence) {
    static OutcomeTurn of(Difference.Turn t) {
      return new OutcomeTurn(
          t.workload(),
          t.resource(),
          t.name(),
          t.criterion(),
          t.title(),
          t.from(),
          t.to(),
          t.worse(),
          t.sentence());
    }
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
