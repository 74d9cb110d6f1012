package hardproof.server.commandline;

import hardproof.server.evidence.PackVerifier;
import hardproof.server.ledger.TreeHead;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.charset.MalformedInputException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Checks a pack offline. */
@Command(
    name = "verify",
    description = "Checks a pack offline and computes its verdicts again from its facts.",
    mixinStandardHelpOptions = true)
final class VerifyCommand implements Callable<Integer> {
  @Parameters(paramLabel = "PACK", description = "The pack's zip.")
  private Path pack;

  @Option(
      names = "--head",
      paramLabel = "FILE",
      description =
          "A head of the ledger that you kept: whether the pack's ledger only grew since.")
  private Path head;

  @CommandLine.Spec
  private CommandLine.Model.CommandSpec spec;

  @Override
  public Integer call() throws IOException {
    PackVerifier.Verification verification = PackVerifier.verify(pack, kept());
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

  private TreeHead kept() throws IOException {
    if (head == null) {
      return null;
    }
    try {
      return TreeHead.read(Files.readString(head));
    } catch (IllegalArgumentException | MalformedInputException e) {
      throw new Refused(
          head + " holds no head of a ledger as Evidence gives it out (" + e.getMessage() + ").");
    }
  }
}
