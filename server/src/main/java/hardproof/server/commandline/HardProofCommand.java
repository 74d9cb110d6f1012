package hardproof.server.commandline;

import hardproof.server.installation.AllowedStores;
import hardproof.server.storage.Database;
import hardproof.server.storage.NoSpaceLeft;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.io.PrintStream;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.transaction.CannotCreateTransactionException;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/**
 * {@code hard-proof COMMAND}. Exit codes: 0 fine, 1 findings or failed checks, 2 wrong use or
 * something that can't be done.
 */
@Command(
    name = "hard-proof",
    description = "Shows which workloads are actually recoverable, and proves it.",
    mixinStandardHelpOptions = true,
    version = "Hard Proof 0.1.0",
    exitCodeListHeading = "%nExit codes:%n",
    exitCodeList = {"0:fine", "1:findings or failed checks", "2:wrong use, or it can't be done"},
    subcommands = {
      ServeCommand.class,
      ImportCommand.class,
      EvaluateCommand.class,
      DrillCommand.class,
      PackCommand.class,
      PeopleCommand.class,
      VerifyCommand.class
    })
public final class HardProofCommand implements Runnable {
  public static final int FINE = 0;
  public static final int FINDINGS = 1;
  public static final int WRONG_USE = 2;

  /** Not an exit code: the server is up and the process must live on. */
  public static final int SERVING = -1;

  @CommandLine.Spec
  private CommandLine.Model.CommandSpec spec;

  @Override
  public void run() {
    throw new CommandLine.ParameterException(spec.commandLine(), "Which command?");
  }

  /** Runs the command line and gives its exit code, or {@link #SERVING}. */
  public static int run(String[] args, PrintStream out, PrintStream err) {
    PrintWriter errors = new PrintWriter(err, true, StandardCharsets.UTF_8);
    return new CommandLine(new HardProofCommand())
        .setOut(new PrintWriter(out, true, StandardCharsets.UTF_8))
        .setErr(errors)
        .setCaseInsensitiveEnumValuesAllowed(true)
        .setExecutionExceptionHandler((e, commandLine, parsed) -> {
          errors.println("hard-proof: " + message(e));
          return WRONG_USE;
        })
        .execute(args);
  }

  /** What the person is told: what happened, and what to do. */
  static String message(Exception e) {
    if (e instanceof UncheckedIOException inside) {
      return message(inside.getCause());
    }
    if (e instanceof Database.NotOurDatabase
        || e instanceof AllowedStores.NotAllowed
        || e instanceof Database.Busy
        || e instanceof Refused
        || e instanceof NotFound
        || e instanceof NoSpaceLeft
        || e instanceof IllegalArgumentException) {
      return e.getMessage();
    }
    if (e instanceof PessimisticLockingFailureException
        || e instanceof CannotCreateTransactionException) {
      return "another process is writing to this data folder, such as an import. Nothing was changed;"
          + " try again when it is done.";
    }
    if (e instanceof IOException) {
      boolean full = String.valueOf(e.getMessage()).contains("No space left");
      return full
          ? "there is no space left on the disk (" + e.getMessage()
              + "). What was stored before is not lost; free some space and try again."
          : e.getMessage() + " (" + e.getClass().getSimpleName() + ")";
    }
    java.io.StringWriter trace = new java.io.StringWriter();
    e.printStackTrace(new PrintWriter(trace));
    return "a fault of ours: " + trace;
  }
}
