package hardproof.proving.boot.qemu;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.proving.boot.BootEngine;
import hardproof.proving.boot.BootEngine.EngineFailed;
import hardproof.proving.boot.Ending;
import hardproof.proving.boot.Expectation;
import hardproof.proving.boot.Watched;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PipedInputStream;
import java.io.PipedOutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * What a whole machine does between two of our questions, with an engine that is told when: the real one does
 * the same once in many starts. What it answers is what QEMU 7.2 answered then.
 */
class QemuWatchTest {
  private static final String DONE = "{\"return\": {}}";
  private static final String REFUSED =
      "{\"error\": {\"class\": \"GenericError\", \"desc\": \"Resetting the Virtual Machine is required\"}}";
  private static final String ENDED =
      "{\"event\": \"SHUTDOWN\", \"data\": {\"guest\": true, \"reason\": "
          + "\"guest-reset\"}}\n{\"event\": \"STOP\"}\n";

  @TempDir
  Path temp;

  /** Answers each line of QMP as it is told, on its own standard output. */
  private static class ToldEngine extends Process {
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private final PipedInputStream out = new PipedInputStream(1 << 16);
    private final PipedOutputStream answers;
    private final UnaryOperator<String> afterStop;
    private boolean stopped;

    /** @param afterStop what is answered to a command once the machine was stopped; null for the usual */
    ToldEngine(UnaryOperator<String> afterStop) throws IOException {
      this.afterStop = afterStop;
      this.answers = new PipedOutputStream(out);
      say("{\"QMP\": {}}");
    }

    private void say(String line) throws IOException {
      answers.write((line + "\n").getBytes(StandardCharsets.UTF_8));
      answers.flush();
    }

    private String answer(JsonNode asked) throws IOException {
      String command = asked.path("execute").asString();
      String told = stopped ? afterStop.apply(command) : null;
      stopped |= command.equals("stop");
      if (told != null) {
        return told;
      }
      Path file = Path.of(asked.path("arguments").path("filename").asString(""));
      return switch (command) {
        case "query-named-block-nodes", "query-block" -> "{\"return\": []}";
        case "query-status" -> "{\"return\": {\"running\": true, \"status\": \"running\"}}";
        case "human-monitor-command" ->
          "{\"return\": \"" + told(asked.path("arguments").path("command-line").asString()) + "\"}";
        case "pmemsave" -> {
          Files.write(file, new byte[0x8000]);
          yield DONE;
        }
        case "screendump" -> {
          Files.write(file, new byte[] {1});
          yield DONE;
        }
        default -> DONE;
      };
    }

    /** What is answered to a command that people type. */
    String told(String command) {
      return "port = 0x00";
    }

    @Override
    public OutputStream getOutputStream() {
      return new OutputStream() {
        private final ByteArrayOutputStream line = new ByteArrayOutputStream();

        @Override
        public void write(int b) throws IOException {
          if (b != '\n') {
            line.write(b);
            return;
          }
          say(answer(JSON.readTree(line.toString(StandardCharsets.UTF_8))));
          line.reset();
        }
      };
    }

    @Override
    public InputStream getInputStream() {
      return out;
    }

    @Override
    public InputStream getErrorStream() {
      return InputStream.nullInputStream();
    }

    @Override
    public int waitFor() {
      return 0;
    }

    @Override
    public int exitValue() {
      return 0;
    }

    @Override
    public void destroy() {}
  }

  private Watched watch(UnaryOperator<String> afterStop) throws IOException {
    return watch(new ToldEngine(afterStop));
  }

  private Watched watch(ToldEngine engine) throws IOException {
    BootEngine.Start start = new BootEngine.Start(
        temp.resolve("image"),
        false,
        BootEngine.Bus.IDE,
        temp,
        Duration.ofSeconds(5),
        t -> false,
        t -> false,
        "00000000");
    return new QemuWatch(engine, start, temp.resolve("serial"), null, s -> {}, () -> {})
        .watch(null);
  }

  /** It was running when asked, and had ended itself before it was stopped: a whole build failed by it once. */
  @Test
  void aMachineThatRestartsWhileItIsLookedAtRestarted() throws IOException {
    Watched watched = watch(command -> switch (command) {
      case "cont" -> ENDED + REFUSED;
      case "query-status" -> "{\"return\": {\"running\": false, \"status\": \"shutdown\"}}";
      default -> null;
    });
    assertThat(watched.ending()).isEqualTo(Ending.RESTARTED);
    assertThat(watched.screens()).hasSize(1);
  }

  /** Where each look takes a second, five looks are over with its time, and a whole build failed by it once. */
  @Test
  void aCircleIsToldFromWorkOnABusyComputerToo() throws IOException {
    Watched watched = watch(new ToldEngine(command -> null) {
      private long ticks;

      @Override
      String told(String command) {
        if (command.equals("info registers")) {
          return "EIP=00007c1" + ticks % 2 + " HLT=0";
        }
        ticks += 3_579_545;
        return "portw[0x608] = 0x" + Long.toHexString(ticks & 0xff_ffff);
      }
    });
    assertThat(watched.ending()).as(watched.note()).isEqualTo(Ending.BUSY);
  }

  @Test
  void aMachineThatDoesNotGoOnForAnotherReasonIsOurFault() {
    assertThatThrownBy(() -> watch(command -> switch (command) {
          case "cont" -> REFUSED;
          case "query-status" -> "{\"return\": {\"running\": false, \"status\": \"paused\"}}";
          default -> null;
        }))
        .isInstanceOf(EngineFailed.class)
        .hasMessage("QEMU refused cont: Resetting the Virtual Machine is required");
  }

  /** Firmware and systems colour what they say; a prompt is told all the same. */
  @Test
  void whatSteersATerminalIsNoText() {
    assertThat(QemuWatch.plain(
            "\u001b[2J\u001b[01;01HBooting\r\n\u001b[14;01H\u001b[1m\u001b[33mShell> \u001b[0m"))
        .isEqualTo("\nBooting\n\nShell> ");
    assertThat(Expectation.of(java.util.List.of())
            .met(QemuWatch.plain("\u001b(B\u001b[mgate login: \u001b[?25h")))
        .isTrue();
  }
}
