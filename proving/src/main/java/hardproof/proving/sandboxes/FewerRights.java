package hardproof.proving.sandboxes;

import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** With what programs that read other people's bytes are begun: without root's rights and any network. */
public final class FewerRights {
  private static final List<String> PREFIX = find();
  private static final boolean LIMITS = runs(List.of("prlimit", "--cpu=60", "true"));

  private FewerRights() {}

  /** Words before a command; none where the system does not allow namespaces of its own. */
  public static List<String> prefix() {
    return PREFIX;
  }

  /** A command with fewer rights. */
  public static List<String> of(List<String> command) {
    List<String> all = new ArrayList<>(PREFIX);
    all.addAll(command);
    return all;
  }

  /**
   * Words before a command that also end it when it has used so much of the processor: where this process is killed,
   * nobody else would.
   */
  public static List<String> prefix(Duration processorTime) {
    List<String> all = new ArrayList<>(PREFIX);
    if (LIMITS) {
      all.addAll(List.of("prlimit", "--cpu=" + Math.max(1, processorTime.toSeconds())));
    }
    return all;
  }

  private static boolean runs(List<String> command) {
    try {
      return Commands.run(command, Duration.ofSeconds(20)).exit() == 0;
    } catch (IOException e) {
      return false;
    }
  }

  private static List<String> find() {
    // Somebody, so that what a program writes is its own and it can copy an owner; not root.
    List<String> mapped =
        List.of("unshare", "--user", "--map-user=65534", "--map-group=65534", "--net");
    for (List<String> prefix :
        List.of(mapped, List.of("unshare", "--user", "--net"), List.of("unshare", "--user"))) {
      List<String> trial = new ArrayList<>(prefix);
      trial.add("true");
      if (runs(trial)) {
        return prefix;
      }
    }
    // Without it there is still no network card of a machine and no writing.
    return List.of();
  }
}
