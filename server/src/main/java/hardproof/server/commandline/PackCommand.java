package hardproof.server.commandline;

import hardproof.core.estate.Selector;
import hardproof.core.wording.Wording;
import hardproof.server.evidence.PackBuilder;
import hardproof.server.evidence.PackStore;
import hardproof.server.facts.SelectorJson;
import hardproof.server.installation.Installation;
import hardproof.server.ledger.LedgerDesk;
import hardproof.server.proof.AsAt;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.concurrent.Callable;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Makes an evidence pack. */
@Command(
    name = "pack",
    description =
        "Makes an evidence pack: a BagIt zip with the report, the facts and their checksums.",
    mixinStandardHelpOptions = true)
final class PackCommand implements Callable<Integer> {
  @Mixin
  private DataOption data;

  @Option(names = "--out", paramLabel = "FILE", description = "Also write the zip here.")
  private Path out;

  @Option(
      names = "--title",
      description = "Title (default: ${DEFAULT-VALUE}).",
      defaultValue = "Recoverability")
  private String title;

  @Option(names = "--scope", description = "Selector as JSON; everything if not given.")
  private String scope;

  @Option(names = "--as-at", paramLabel = "TIME", description = "By what was known at that time.")
  private String asAt;

  @Option(
      names = "--known-at",
      paramLabel = "TIME",
      description = "By what was known when: then, now or a time; then if not given.")
  private String knownAt;

  @Option(
      names = "--from",
      paramLabel = "TIME",
      description = "Begin of the period it tells of; 90 days before if not given.")
  private String from;

  @CommandLine.Spec
  private CommandLine.Model.CommandSpec spec;

  @Override
  public Integer call() throws IOException {
    if (out != null && Files.exists(out)) {
      throw new Refused(out + " is there already and is not written over; choose another name.");
    }
    try (Installation installation = data.openExisting()) {
      PackBuilder.Contents contents = contents(installation);
      if (contents.facts().facts().resources().isEmpty()) {
        throw new Refused("Nothing matches this scope: a pack about nothing would prove nothing.");
      }
      return issue(installation, contents);
    }
  }

  private PackBuilder.Contents contents(Installation installation) {
    Selector selector = scope == null
        ? Selector.EVERYTHING
        : HardProofCommand.read("--scope", scope, SelectorJson::read);
    Instant at = HardProofCommand.time("--as-at", asAt);
    AsAt when = HardProofCommand.knownWhen(at, knownAt);
    HardProofCommand.refuseBeforeTheFirstFact(installation, "--as-at", when);
    return installation
        .part(PackBuilder.class)
        .contents(
            installation.evaluations().at(when),
            title,
            selector,
            DataOption.actor(),
            HardProofCommand.time("--from", from));
  }

  private Integer issue(Installation installation, PackBuilder.Contents contents)
      throws IOException {
    installation.part(LedgerDesk.class).check();
    installation.part(LedgerDesk.class).requireWhole();
    PackStore.Issued pack =
        installation.packs().issue(contents, installation.clock().instant());
    Path file = installation.packs().file(pack);
    if (out != null) {
      file = Files.copy(file, out);
    }
    spec.commandLine()
        .getOut()
        .println(file + ": " + Wording.bytes(pack.bytes()) + ", "
            + pack.proven() + " of " + Wording.count(pack.workloads(), "workload", "workloads")
            + " proven, SHA-256 " + pack.sha256());
    return HardProofCommand.FINE;
  }
}
