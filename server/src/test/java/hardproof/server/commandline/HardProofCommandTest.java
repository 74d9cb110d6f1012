package hardproof.server.commandline;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import org.junit.jupiter.api.Test;

class HardProofCommandTest {
  /** A pipeline that asks for the exit code must not take it for findings. */
  @Test
  void tooLittleMemoryIsNoFinding() {
    StringWriter said = new StringWriter();
    int code = HardProofCommand.withinMemory(
        () -> {
          throw new OutOfMemoryError("Java heap space");
        },
        new PrintWriter(said, true));
    assertThat(code).isEqualTo(HardProofCommand.WRONG_USE);
    assertThat(said.toString())
        .startsWith("hard-proof: the ")
        .contains("of memory that it may use are not enough", "HARD_PROOF_JAVA_OPTS=-Xmx4g");
    assertThat(HardProofCommand.withinMemory(() -> 7, new PrintWriter(said))).isEqualTo(7);
  }
}
