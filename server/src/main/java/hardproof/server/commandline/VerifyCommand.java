package hardproof.server.commandline;

import hardproof.server.evidence.PackVerifier;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

/** Checks a pack offline. */
@Command(
    name = "verify",
    description = "Checks a pack offline and computes its verdicts again from its facts.",
    mixinStandardHelpOptions = true)
final class VerifyCommand implements Callable<Integer> {
  @Parameters(paramLabel = "PACK", description = "The pack's zip.")
  private Path pack;

  @CommandLine.Spec
  private CommandLine.Model.CommandSpec spec;

  @Override
  public Integer call() throws IOException {
    PackVerifier.Verification verification = PackVerifier.verify(pack);
    PrintWriter out = spec.commandLine().getOut();
    for (PackVerifier.Check check : verification.checks()) {
      out.println(
          (check.passed() ? "ok      " : "FAILED  ") + check.name() + ": " + check.sentence());
    }
    out.println(
        verification.passed()
            ? "The pack is whole, and its verdicts follow from its facts."
            : "This pack must not be relied on. Ask whoever issued it for the original.");
    return verification.passed() ? HardProofCommand.FINE : HardProofCommand.FINDINGS;
  }
}
