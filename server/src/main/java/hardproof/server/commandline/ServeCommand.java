package hardproof.server.commandline;

import hardproof.core.programmes.Capacity;
import hardproof.core.wording.WrongValue;
import hardproof.server.ServerApplication;
import hardproof.server.demo.DemoClock;
import hardproof.server.demo.DemoFeed;
import hardproof.server.demo.DemoSetup;
import hardproof.server.demo.DemoStores;
import hardproof.server.installation.Housekeeping;
import hardproof.server.installation.Installation;
import hardproof.server.people.FirstAdministrator;
import hardproof.server.storage.DataFolder;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.net.URISyntaxException;
import java.nio.channels.FileLock;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.web.server.context.WebServerApplicationContext;
import org.springframework.context.ConfigurableApplicationContext;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Runs the web application until the process is stopped. */
@Command(name = "serve", description = "Runs the web application.", mixinStandardHelpOptions = true)
final class ServeCommand implements Callable<Integer> {
  @Mixin
  private DataOption data;

  @Option(
      names = "--own-address",
      description = "Where others reach this server, for their answers to outside checks:"
          + " https://proof.example for example.")
  private String ownAddress;

  @Option(
      names = "--port",
      description = "Port to listen on; 0 for any that is free (default: ${DEFAULT-VALUE}).",
      defaultValue = "8080")
  private int port;

  @Option(
      names = "--host",
      description = "Address to listen on (default: ${DEFAULT-VALUE}, this machine only).",
      defaultValue = "127.0.0.1")
  private String host;

  @Option(
      names = "--demo",
      description = "Fill an empty data folder with the demo estate and its people.")
  private boolean demo;

  @Option(
      names = "--pace",
      description =
          "With --demo: how fast its clock goes, such as 1h=2s: an hour passes in two seconds.")
  private String pace;

  @Option(
      names = "--still",
      description = "With --demo: its feeds bring nothing more, so that it stays as it was made.")
  private boolean still;

  @Option(
      names = "--beside",
      hidden = true,
      description = "Number of a process with which this one ends.")
  private Long beside;

  @CommandLine.Spec
  private CommandLine.Model.CommandSpec spec;

  @Override
  public Integer call() throws IOException {
    var out = spec.commandLine().getOut();
    var err = spec.commandLine().getErr();
    String wrong = wrongOption();
    if (wrong != null) {
      err.println("hard-proof: " + wrong + ".");
      return HardProofCommand.WRONG_USE;
    }
    DataFolder folder = data.folder();
    FileLock lock = folder.tryLock();
    if (lock == null) {
      err.println("hard-proof: " + folder.root()
          + " is in use by another Hard Proof. Stop that one, or give another folder with --data.");
      return HardProofCommand.WRONG_USE;
    }
    if (port != 0 && !free(host, port)) {
      err.println("hard-proof: port " + port
          + " is in use by another program. Stop that one, or choose another with --port.");
      lock.channel().close();
      return HardProofCommand.WRONG_USE;
    }
    if (demo) {
      DemoSetup.fillIfEmpty(folder, out::println);
      DemoSetup.allowStores(folder);
    }
    Optional<DemoFeed> feed = demo && !still ? DemoFeed.of(folder) : Optional.empty();
    Installation installation = open(feed);
    Optional<DemoStores> stores =
        demo ? Optional.of(DemoStores.start(folder, installation)) : Optional.empty();
    Housekeeping housekeeping = new Housekeeping(installation);
    feed.ifPresent(
        f -> housekeeping.also("what the demo's feeds bring", () -> f.bring(installation)));
    ConfigurableApplicationContext context = start(installation, housekeeping);
    // The hook also holds on to the lock: one that nothing refers to is given up at the next
    // garbage collection, and another server could take the folder.
    Runtime.getRuntime().addShutdownHook(new Thread(() -> {
      stores.ifPresent(DemoStores::close);
      stop(context, housekeeping, installation, lock);
    }));
    if (beside != null) {
      ProcessHandle.of(beside)
          .ifPresentOrElse(p -> p.onExit().thenRun(() -> System.exit(0)), () -> System.exit(0));
    }
    int bound = ((WebServerApplicationContext) context).getWebServer().getPort();
    installation.start(
        ownAddress == null ? here(host, bound) : ownAddress.replaceAll("/+$", ""),
        Capacity.AT_ONCE_AT_MOST);
    housekeeping.start();
    FirstAdministrator first = context.getBean(FirstAdministrator.class);
    if (first.needed()) {
      out.println("Nobody can sign in yet. Make the first administrator with the one-time code "
          + first.code());
    }
    out.println("Hard Proof is at " + here(host, bound));
    return HardProofCommand.SERVING;
  }

  /** What is wrong with an option, and what would do; null when nothing is. */
  private String wrongOption() {
    String wrong = ownAddress == null ? null : refusal(ownAddress);
    if (wrong != null) {
      return "--own-address: '" + ownAddress + "' " + wrong
          + "; write it as https://proof.example or http://proof.example:8080";
    }
    String unpaced = wrongPace();
    return unpaced == null ? null : "--pace: " + unpaced;
  }

  private Installation open(Optional<DemoFeed> feed) throws IOException {
    return feed.isEmpty()
        ? data.open()
        : data.open(feed.get().clock(pace == null ? 1 : DemoClock.pace(pace)));
  }

  /** What is wrong with the pace that was given; null when nothing is. */
  private String wrongPace() {
    if (pace == null) {
      return null;
    }
    if (!demo || still) {
      return "only a demo whose feeds go on has a clock of its own; give --demo, and not --still";
    }
    try {
      DemoClock.pace(pace);
      return null;
    } catch (WrongValue e) {
      return e.getMessage();
    }
  }

  /** Where a browser on this machine finds a server that listens on a host and port. */
  static String here(String host, int port) {
    boolean any = List.of("127.0.0.1", "0.0.0.0", "::").contains(host);
    String name = any ? "localhost" : host.contains(":") ? "[" + host + "]" : host;
    return "http://" + name + ":" + port;
  }

  /** What is wrong with an address that was given for this server; null when nothing is. */
  private static String refusal(String address) {
    try {
      URI uri = new URI(address);
      boolean web = "http".equals(uri.getScheme()) || "https".equals(uri.getScheme());
      return web && uri.getHost() != null && uri.getQuery() == null && uri.getFragment() == null
          ? null
          : "is no address of a web server";
    } catch (URISyntaxException e) {
      return "is no address: " + e.getReason();
    }
  }

  private static boolean free(String host, int port) throws IOException {
    try (ServerSocket socket = new ServerSocket()) {
      socket.setReuseAddress(true);
      socket.bind(new InetSocketAddress(InetAddress.getByName(host), port));
      return true;
    } catch (java.net.BindException e) {
      return false;
    }
  }

  private ConfigurableApplicationContext start(
      Installation installation, Housekeeping housekeeping) {
    SpringApplication application = ServerApplication.over(installation);
    // Not before: what is logged while Spring sets the log up is lost, with a warning.
    application.addInitializers(context -> housekeeping.prepare());
    return application.run("--server.port=" + port, "--server.address=" + host);
  }

  private static void stop(
      ConfigurableApplicationContext context,
      Housekeeping housekeeping,
      Installation installation,
      FileLock lock) {
    housekeeping.close();
    context.close();
    installation.close();
    try {
      lock.channel().close();
    } catch (IOException e) {
      // The process ends now, and the lock with it.
    }
  }
}
