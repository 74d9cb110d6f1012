package hardproof.server.commandline;

import hardproof.server.installation.Installation;
import hardproof.server.storage.DataFolder;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import picocli.CommandLine;
import picocli.CommandLine.Option;

/** The option that says which data folder is meant. */
final class DataOption {
  @CommandLine.Spec(CommandLine.Spec.Target.MIXEE)
  private CommandLine.Model.CommandSpec spec;

  @Option(
      names = "--data",
      paramLabel = "DIR",
      description = "Folder with all that is kept (default: ${DEFAULT-VALUE}).",
      defaultValue = "data")
  private Path data;

  @Option(
      names = "--stores",
      paramLabel = "DIR",
      description =
          "Folder that stores may lie in, besides those in the file store-roots of the data"
              + " folder; may be given again. Nothing else is ever read.")
  private List<Path> stores = List.of();

  /** Where stores may lie, besides what the data folder's setting allows. */
  List<Path> stores() {
    return stores;
  }

  DataFolder folder() {
    return new DataFolder(data);
  }

  Installation open() throws IOException {
    return open(Clock.systemUTC());
  }

  Installation open(Clock clock) throws IOException {
    Installation installation = Installation.open(folder(), clock, stores);
    installation
        .database()
        .health()
        .warnings()
        .forEach(w -> spec.commandLine().getErr().println("hard-proof: warning: " + w));
    return installation;
  }

  /**
   * Opens a folder that something was brought into before.
   *
   * @throws Refused when there is nothing
   */
  Installation openExisting() throws IOException {
    if (!Files.exists(folder().database())) {
      throw new Refused(
          folder().root() + " holds no data of Hard Proof yet. Give the right folder with"
              + " --data, or bring facts in with hard-proof import.");
    }
    return open();
  }

  /** Who did it, for the record. */
  static String actor() {
    return "command line (" + System.getProperty("user.name", "not known") + ")";
  }
}
