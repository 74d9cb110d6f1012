package hardproof.server.commandline;

import hardproof.core.criteria.Standard;
import hardproof.core.evidence.Tables;
import hardproof.core.facts.Estate;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.core.proof.Exposure;
import hardproof.core.proof.PointWorth;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import hardproof.server.evidence.FactsJson;
import hardproof.server.installation.Installation;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluated;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.io.InputStream;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Prints the verdicts. */
@Command(
    name = "evaluate",
    description =
        "Prints the verdict of every workload; 1 when one is neither proven nor excluded. Of the data"
            + " folder, or with --facts of a facts.json alone.",
    mixinStandardHelpOptions = true)
final class EvaluateCommand implements Callable<Integer> {
  @Mixin
  private DataOption data;

  @Option(
      names = "--facts",
      paramLabel = "FILE",
      description =
          "Evaluate a facts.json from a pack instead of the data folder; neither --data nor"
              + " --stores goes with it.")
  private Path factsFile;

  @Option(
      names = "--as-at",
      paramLabel = "TIME",
      description = "By what was known at that time (2026-11-24T03:10:00Z); now if not given.")
  private String asAt;

  @Option(
      names = "--known-at",
      paramLabel = "TIME",
      description =
          "With --as-at: by what was known when, which is then (if not given), now (in hindsight) or a"
              + " time.")
  private String knownAt;

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

  @Option(
      names = "--usable",
      description =
          "Print usable.csv: of each point whether it can be restored, or why not, the blast"
              + " radius (points lost with it), the reach lost with it, and whether deleting it is safe.")
  private boolean usable;

  @CommandLine.Spec
  private CommandLine.Model.CommandSpec spec;

  @Override
  public Integer call() throws IOException {
    refuseWhatDoesNotFit();
    PrintWriter out = spec.commandLine().getOut();
    if (usable) {
      return printPoints(out);
    }
    if (exposure) {
      out.print(Tables.exposures(judged(e -> Exposure.of(e.estate(), e.standard()), Exposure::of)));
      out.flush();
      return HardProofCommand.FINE;
    }
    return judge(out);
  }

  private Integer printPoints(PrintWriter out) throws IOException {
    out.print(Tables.points(judged(e -> PointWorth.of(e.estate(), e.standard()), PointWorth::of)));
    out.flush();
    return HardProofCommand.FINE;
  }

  private Integer judge(PrintWriter out) throws IOException {
    Evaluation evaluation = judged(Evaluated::evaluation, Evaluator::evaluate);
    if (evaluation.workloads().isEmpty()) {
      throw new Refused("no workload and no resource is known, so nothing was judged.");
    }
    if (csv) {
      out.print(findings ? Tables.findings(evaluation) : Tables.workloads(evaluation));
      out.flush();
    } else {
      out.println("as at " + evaluation.asAt() + known(evaluation) + ", standard "
          + evaluation.standard().title());
      evaluation.workloads().forEach(w -> out.println(line(w)));
      out.println(evaluation.counts().entrySet().stream()
          .map(e -> e.getValue() + " " + e.getKey().code())
          .collect(Collectors.joining(", ")));
    }
    boolean fine = evaluation.workloads().stream()
        .allMatch(w -> w.verdict() == Verdict.PROVEN || w.verdict() == Verdict.EXCLUDED);
    return fine ? HardProofCommand.FINE : HardProofCommand.FINDINGS;
  }

  private static String known(Evaluation evaluation) {
    return evaluation.knownAt().isAfter(evaluation.asAt())
        ? ", in hindsight by facts recorded until " + evaluation.knownAt()
        : "";
  }

  private void refuseWhatDoesNotFit() {
    CommandLine.ParseResult given = spec.commandLine().getParseResult();
    List<String> tables = Stream.of("--csv", "--exposure", "--usable")
        .filter(given::hasMatchedOption)
        .toList();
    if (tables.size() > 1) {
      throw new Refused(
          String.join(" and ", tables) + " don't go together: each prints a table of its own");
    }
    if (findings && !csv) {
      throw new Refused("--findings says which table --csv prints; give both");
    }
    refuseBesideFacts(given);
  }

  private void refuseBesideFacts(CommandLine.ParseResult given) {
    for (String other : List.of("--data", "--stores", "--known-at")) {
      if (factsFile != null && given.hasMatchedOption(other)) {
        throw new Refused(
            "--facts and " + other + " don't go together: the facts are all that is judged");
      }
    }
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
    Instant at = HardProofCommand.time("--as-at", asAt);
    if (factsFile != null) {
      return ofFacts(pack, at);
    }
    try (Installation installation = data.openExisting()) {
      AsAt when = HardProofCommand.knownWhen(at, knownAt);
      HardProofCommand.refuseBeforeTheFirstFact(installation, "--as-at", when);
      return folder.apply(installation.evaluations().at(when));
    }
  }

  private <T> T ofFacts(BiFunction<Estate, Standard, T> pack, Instant at) throws IOException {
    if (!Files.isRegularFile(factsFile)) {
      throw new Refused("--facts " + factsFile + ": no such file");
    }
    FactsJson json;
    try (InputStream in = Files.newInputStream(factsFile)) {
      json = FactsJson.read(in);
    }
    Instant judged = at == null ? json.asAt() : at;
    Instant known = judged.isAfter(json.knownAt()) ? judged : json.knownAt();
    return pack.apply(json.estate().judgedAt(judged, known), json.standard());
  }
}
