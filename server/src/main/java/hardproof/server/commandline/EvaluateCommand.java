package hardproof.server.commandline;

import hardproof.core.criteria.Standard;
import hardproof.core.evidence.Tables;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.Values;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.core.proof.Exposure;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import hardproof.server.evidence.FactsJson;
import hardproof.server.installation.Installation;
import hardproof.server.proof.Evaluated;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Locale;
import java.util.concurrent.Callable;
import java.util.function.BiFunction;
import java.util.function.Function;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Prints the verdicts. */
@Command(
    name = "evaluate",
    description =
        "Prints the verdict of every workload; 1 when one is neither proven nor excluded.",
    mixinStandardHelpOptions = true)
final class EvaluateCommand implements Callable<Integer> {
  @Mixin
  private DataOption data;

  @Option(
      names = "--facts",
      description = "Evaluate a facts.json from a pack instead of the data folder.")
  private Path factsFile;

  @Option(
      names = "--as-at",
      paramLabel = "TIME",
      description = "By what was known at that time (2026-11-24T03:10:00Z); now if not given.")
  private String asAt;

  @Option(names = "--csv", description = "Print workloads.csv (or findings.csv with --findings).")
  private boolean csv;

  @Option(names = "--findings", description = "With --csv: one row for each outcome.")
  private boolean findings;

  @Option(
      names = "--exposure",
      description =
          "Print exposure.csv: what each resource would lose now, at worst, and the share of"
              + " the time within its RPO. Nothing else is judged, so it is quick.")
  private boolean exposure;

  @CommandLine.Spec
  private CommandLine.Model.CommandSpec spec;

  @Override
  public Integer call() throws IOException {
    PrintWriter out = spec.commandLine().getOut();
    if (exposure) {
      out.print(Tables.exposures(judged(e -> Exposure.of(e.estate(), e.standard()), Exposure::of)));
      out.flush();
      return HardProofCommand.FINE;
    }
    Evaluation evaluation = judged(Evaluated::evaluation, Evaluator::evaluate);
    if (csv) {
      out.print(findings ? Tables.findings(evaluation) : Tables.workloads(evaluation));
      out.flush();
    } else {
      out.println(
          "as at " + evaluation.asAt() + ", standard " + evaluation.standard().title());
      evaluation.workloads().forEach(w -> out.println(line(w)));
      out.println(evaluation.counts());
    }
    boolean fine = evaluation.workloads().stream()
        .allMatch(w -> w.verdict() == Verdict.PROVEN || w.verdict() == Verdict.EXCLUDED);
    return fine ? HardProofCommand.FINE : HardProofCommand.FINDINGS;
  }

  private static String line(WorkloadResult w) {
    return String.format(
        Locale.ROOT,
        "%-10s tier %-2s %-28s %s",
        w.verdict().code(),
        w.workload().tier() == null ? "?" : w.workload().tier(),
        w.workload().name(),
        w.sentence());
  }

  /** What is asked of the data folder, or of the facts of a pack. */
  private <T> T judged(Function<Evaluated, T> folder, BiFunction<Estate, Standard, T> pack)
      throws IOException {
    Instant at = asAt == null ? null : Values.time(asAt);
    if (factsFile != null) {
      FactsJson json = FactsJson.read(Files.readAllBytes(factsFile));
      Instant instant = at == null ? json.asAt() : at;
      return pack.apply(new Estate(instant, json.facts()), json.standard());
    }
    try (Installation installation = data.openExisting()) {
      return folder.apply(installation.evaluations().at(at));
    }
  }
}
