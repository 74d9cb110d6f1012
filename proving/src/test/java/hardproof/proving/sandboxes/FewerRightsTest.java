package hardproof.proving.sandboxes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class FewerRightsTest {
  /** Nobody is left to end it where this process is killed, so the system does (setrlimit, RLIMIT_CPU). */
  @Test
  void aProgramThatGoesOnAndOnIsEndedByTheSystem() throws Exception {
    List<String> command = new ArrayList<>(FewerRights.prefix(Duration.ofSeconds(1)));
    assertThat(command).as("util-linux is on every Debian").contains("prlimit");
    command.addAll(List.of("sh", "-c", "while :; do :; done"));
    Commands.Result result = Commands.run(command, Duration.ofMinutes(2));
    assertThat(result.exit()).as("128 and the signal: SIGXCPU or SIGKILL").isIn(128 + 24, 128 + 9);
  }

  @Test
  void aProgramWithFewerRightsHasNoNetwork() throws Exception {
    assumeTrue(!FewerRights.prefix().isEmpty(), "this system allows no namespaces of users");
    Commands.Result result =
        Commands.run(FewerRights.of(List.of("cat", "/proc/net/dev")), Duration.ofSeconds(20));
    assertThat(result.output().lines().filter(l -> l.contains(":")))
        .allMatch(l -> l.strip().startsWith("lo:"));
  }
}
