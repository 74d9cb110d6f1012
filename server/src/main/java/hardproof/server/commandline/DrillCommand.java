package hardproof.server.commandline;

import hardproof.core.drills.Method;
import hardproof.core.facts.Estate;
import hardproof.core.wording.Coded;
import hardproof.core.wording.Wording;
import hardproof.proving.drills.DrillPlan;
import hardproof.proving.drills.StepState;
import hardproof.server.installation.Installation;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunNeeds;
import hardproof.server.runs.RunOrder;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.channels.FileLock;
import java.time.Duration;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Drills one resource and waits for the end. */
@Command(
    name = "drill",
    description = "Drills a resource and prints what came of it; 1 unless it passed.",
    mixinStandardHelpOptions = true)
final class DrillCommand implements Callable<Integer> {
  private static final long LOOK_EVERY_MILLIS = 250;

  @Mixin
  private DataOption data;

  @Parameters(paramLabel = "RESOURCE", description = "Key of the resource.")
  private String resource;

  @Option(names = "--point", description = "Key of the point; the newest usable one if not given.")
  private String point;

  @Option(
      names = "--store",
      description = "Key of the store to read from; any that has it if not given.")
  private String store;

  @Option(
      names = "--method",
      description = "presence, read-through, sample-restore, full-restore, database, directory,"
          + " container-application or boot; the strongest if not given.")
  private String method;

  @Option(names = "--reason", description = "Why; it stands in the evidence.", required = true)
  private String reason;

  @CommandLine.Spec
  private CommandLine.Model.CommandSpec spec;

  @Override
  public Integer call() throws IOException, InterruptedException {
    try (Installation installation = data.openExisting();
        Place place = new Place(data.folder().tryLock())) {
      String id = queue(installation);
      workThrough(installation, place, id);
      Run run = await(installation, id);
      print(spec.commandLine().getOut(), run);
      return run.fact().passed() ? HardProofCommand.FINE : HardProofCommand.FINDINGS;
    }
  }

  private String queue(Installation installation) {
    Estate facts = installation.evaluations().now().estate();
    RunOrder order = installation
        .orders()
        .complete(
            facts,
            new RunOrder(
                resource,
                point,
                store,
                method == null
                    ? null
                    : HardProofCommand.read("--method", method, m -> Coded.of(Method.class, m)),
                null,
                reason,
                Duration.ZERO));
    DrillPlan plan = installation.orders().plan(facts, order);
    if (plan.refusal() != null) {
      throw new Refused(plan.refusal());
    }
    return installation
        .runs()
        .queue(
            order,
            plan.reaches(),
            RunNeeds.of(plan.readBytes(), plan.spaceBytes()),
            null,
            DataOption.actor(),
            installation.clock().instant());
  }

  private static void workThrough(Installation installation, Place place, String id) {
    if (place.isOurs()) {
      // Nobody else works through the queue now, so this process does until ours is done.
      installation.queue().recover();
      while (!ended(installation, id) && installation.queue().runOne()) {
        // older runs come first
      }
    }
  }

  /** The right to work through the queue, if nobody else has it; given back at the end. */
  private record Place(FileLock lock) implements AutoCloseable {
    boolean isOurs() {
      return lock != null;
    }

    @Override
    public void close() throws IOException {
      if (lock != null) {
        lock.channel().close();
      }
    }
  }

  private static boolean ended(Installation installation, String id) {
    return installation.runs().find(id).orElseThrow().ended();
  }

  /** A server that has the data folder carries it out; this only watches. */
  private static Run await(Installation installation, String id) throws InterruptedException {
    while (!ended(installation, id)) {
      Thread.sleep(LOOK_EVERY_MILLIS);
    }
    return installation.runs().find(id).orElseThrow();
  }

  private static void print(PrintWriter out, Run run) {
    out.println(run.method().words() + " of " + run.point() + " from " + run.store());
    for (Run.Step step : run.steps()) {
      String mark = step.state() == StepState.DONE ? "ok" : step.state().code();
      out.println(String.format(Locale.ROOT, "  %-8s %s", mark, step.name())
          + (step.message().isEmpty() ? "" : " — " + step.message()));
    }
    out.println("restore " + run.restore().code() + ", checks " + run.checks().code()
        + ", clean-up " + run.cleanup().code() + ", " + Wording.bytes(run.bytes()) + " read"
        + (run.reading() == null ? "" : " in " + run.reading().toMillis() + " ms"));
    out.println(run.sentence());
  }
}
