package hardproof.server.commandline;

import hardproof.core.feeds.Values;
import hardproof.core.wording.Wording;
import hardproof.core.wording.WrongValue;
import hardproof.server.installation.AllowedStores;
import hardproof.server.installation.Installation;
import hardproof.server.proof.AsAt;
import hardproof.server.storage.Database;
import hardproof.server.storage.NoSpaceLeft;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.io.PrintStream;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.function.Function;
import java.util.function.IntSupplier;
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
    CommandLine line = new CommandLine(new HardProofCommand())
        .setOut(new PrintWriter(out, true, StandardCharsets.UTF_8))
        .setErr(errors)
        .setCaseInsensitiveEnumValuesAllowed(true)
        .setExecutionExceptionHandler((e, commandLine, parsed) -> {
          errors.println("hard-proof: " + message(e));
          return WRONG_USE;
        });
    return withinMemory(() -> line.execute(args), errors);
  }

  /** Else Java would end with 1, which is the code of findings. */
  static int withinMemory(IntSupplier work, PrintWriter errors) {
    try {
      return work.getAsInt();
    } catch (OutOfMemoryError e) {
      errors.println("hard-proof: the " + Wording.bytes(Runtime.getRuntime().maxMemory())
          + " of memory that it may use are not enough for this. Let it use more:"
          + " HARD_PROOF_JAVA_OPTS=-Xmx4g ./hard-proof …");
      return WRONG_USE;
    }
  }

  /**
   * A time that was given as an option.
   *
   * @return null when the option was not given
   * @throws Refused when it is not a time
   */
  static Instant time(String option, String text) {
    return text == null ? null : read(option, text, Values::time);
  }

  /**
   * The value of an option.
   *
   * @throws Refused when it can't be read, with the option and the value
   */
  static <T> T read(String option, String text, Function<String, T> reader) {
    try {
      return reader.apply(text);
    } catch (WrongValue e) {
      throw new Refused(option + " '" + text + "': " + e.getMessage());
    }
  }

  /**
   * What {@code --as-at} and {@code --known-at} ask together.
   *
   * @param at null for now
   * @param knownAt null for what was known then
   */
  static AsAt knownWhen(Instant at, String knownAt) {
    if (at == null && knownAt != null) {
      throw new Refused(
          "--known-at says by what was known when of the instant of --as-at; give both");
    }
    boolean word = knownAt == null || knownAt.equals(AsAt.THEN) || knownAt.equals(AsAt.NOW);
    return new AsAt(at, word ? knownAt : time("--known-at", knownAt).toString());
  }

  /** Of an instant before anything was brought in, nothing was known then. */
  static void refuseBeforeTheFirstFact(Installation installation, String option, AsAt when) {
    Instant first = installation.feeds().firstReceived().orElse(null);
    Instant at = when.asAt();
    boolean known = first != null
        && (at == null
            || !at.isBefore(first)
            || when.knownNow()
            || !when.knownThen() && !when.knownInstant().isBefore(first));
    if (at != null && !known) {
      throw new Refused(option + " " + at + ": nothing was known then; "
          + (first == null
              ? "nothing has been brought in yet"
              : "the first facts came at " + first));
    }
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
        || e instanceof WrongValue) {
      return e.getMessage();
    }
    if (e instanceof PessimisticLockingFailureException
        || e instanceof CannotCreateTransactionException) {
      return "another process is writing to this data folder, such as an import. Nothing was changed;"
          + " try again when it is done.";
    }
    if (e instanceof IOException inside) {
      return message(inside);
    }
    return fault(e);
  }

  private static String message(IOException e) {
    if (String.valueOf(e.getMessage()).contains("No space left")) {
      return "there is no space left on the disk (" + e.getMessage()
          + "). What was stored before is not lost; free some space and try again.";
    }
    if (e instanceof FileSystemException of && of.getFile() != null) {
      String what = what(e, of);
      return of.getFile() + what;
    }
    return e.getMessage() == null ? fault(e) : e.getMessage();
  }

  private static String what(IOException e, FileSystemException of) {
    return e instanceof NoSuchFileException
        ? " is not there"
        : e instanceof FileAlreadyExistsException
            ? " is there already"
            : e instanceof AccessDeniedException
                ? " may not be read or written by this user"
                : " can't be read or written"
                    + (of.getReason() == null ? "" : ": " + of.getReason());
  }

  /** What we did not think of: the trace is for us, so it is put where it can be sent from. */
  private static String fault(Exception e) {
    StringWriter trace = new StringWriter();
    e.printStackTrace(new PrintWriter(trace));
    try {
      Path file = Files.createTempFile("hard-proof-fault-", ".txt");
      Files.writeString(file, trace.toString());
      return "a fault of ours. What we need to find it is in " + file + "; please send it to us.";
    } catch (IOException unwritable) {
      return "a fault of ours, and what we need to find it could not be written either.";
    }
  }
}
