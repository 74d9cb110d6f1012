package hardproof.server.commandline;

import hardproof.server.installation.Installation;
import hardproof.server.people.PeopleDesk;
import hardproof.server.people.Person;
import java.io.IOException;
import java.io.PrintWriter;
import java.util.Locale;
import java.util.function.Function;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Adds, changes and ends people, also when nobody can sign in to do it. */
@Command(
    name = "people",
    description = "Lists people; adds, ends and resets them, and changes their role.",
    mixinStandardHelpOptions = true)
final class PeopleCommand implements Runnable {
  @CommandLine.Spec
  private CommandLine.Model.CommandSpec spec;

  @Override
  public void run() {
    throw new CommandLine.ParameterException(
        spec.commandLine(), "Which of list, add, end, role and reset?");
  }

  private int with(DataOption own, Function<PeopleDesk, Integer> work) throws IOException {
    try (Installation installation = own.openExisting()) {
      return work.apply(installation.peopleDesk());
    }
  }

  private static void print(PrintWriter out, PeopleDesk.Link link) {
    out.println(link.name() + " sets a password, until " + link.until()
        + " and once, at the address of the server and this behind it:");
    out.println(link.path());
  }

  @Command(name = "list", description = "Everybody, with role.", mixinStandardHelpOptions = true)
  int list(@Mixin DataOption own) throws IOException {
    PrintWriter out = spec.commandLine().getOut();
    return with(own, desk -> {
      for (Person p : desk.all()) {
        out.println(String.format(
            Locale.ROOT,
            "%-20s %-14s %s%s",
            p.name(),
            p.role().code(),
            p.fullName(),
            p.active() ? "" : "  (ended " + p.endedAt() + ")"));
      }
      return HardProofCommand.FINE;
    });
  }

  @Command(
      name = "add",
      description = "Adds somebody and prints a link that sets their password once.",
      mixinStandardHelpOptions = true)
  int add(
      @Mixin DataOption own,
      @Parameters(paramLabel = "NAME", description = "Sign-in name.") String name,
      @Option(
              names = "--role",
              required = true,
              description = "auditor, operator, approver or administrator.")
          String role,
      @Option(names = "--full-name", description = "As people read it.") String fullName)
      throws IOException {
    return with(own, desk -> {
      print(
          spec.commandLine().getOut(),
          desk.add(name, fullName, PeopleDesk.role(role), DataOption.actor()));
      return HardProofCommand.FINE;
    });
  }

  @Command(
      name = "end",
      description = "Lets somebody sign in no more; what they did stays under their name.",
      mixinStandardHelpOptions = true)
  int end(
      @Mixin DataOption own,
      @Parameters(paramLabel = "NAME", description = "Sign-in name.") String name)
      throws IOException {
    return with(own, desk -> {
      desk.end(name, DataOption.actor());
      spec.commandLine().getOut().println(name + " can't sign in any more.");
      return HardProofCommand.FINE;
    });
  }

  @Command(
      name = "role",
      description = "Gives somebody another role; their sessions end.",
      mixinStandardHelpOptions = true)
  int role(
      @Mixin DataOption own,
      @Parameters(index = "0", paramLabel = "NAME", description = "Sign-in name.") String name,
      @Parameters(
              index = "1",
              paramLabel = "ROLE",
              description = "auditor, operator, approver or administrator.")
          String role)
      throws IOException {
    return with(own, desk -> {
      desk.change(name, PeopleDesk.role(role), DataOption.actor());
      spec.commandLine().getOut().println(name + " is " + role + " now.");
      return HardProofCommand.FINE;
    });
  }

  @Command(
      name = "reset",
      description = "Takes somebody's password away and prints a link that sets another.",
      mixinStandardHelpOptions = true)
  int reset(
      @Mixin DataOption own,
      @Parameters(paramLabel = "NAME", description = "Sign-in name.") String name,
      @Option(
              names = "--even-the-last",
              description = "Also for the last administrator, who can't sign in until it is used.")
          boolean evenTheLast)
      throws IOException {
    return with(own, desk -> {
      print(
          spec.commandLine().getOut(),
          evenTheLast
              ? desk.resetEvenTheLast(name, DataOption.actor())
              : desk.reset(name, DataOption.actor()));
      return HardProofCommand.FINE;
    });
  }
}
