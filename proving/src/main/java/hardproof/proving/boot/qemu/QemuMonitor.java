package hardproof.proving.boot.qemu;

import hardproof.proving.boot.BootEngine;
import hardproof.proving.boot.BootEngine.EngineFailed;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Speaks QMP with a QEMU process over its standard input and output (QEMU manual, "QMP"). */
final class QemuMonitor {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final long ANSWER_LIMIT_SECONDS = 60;

  private final Process process;
  private final OutputStream out;
  private final BlockingQueue<JsonNode> answers = new LinkedBlockingQueue<>();
  private final List<JsonNode> events = new CopyOnWriteArrayList<>();

  QemuMonitor(Process process) {
    this.process = process;
    this.out = process.getOutputStream();
    Thread reader = new Thread(this::read, "qemu-monitor");
    reader.setDaemon(true);
    reader.start();
  }

  /** Answers and events come mixed, a line each. */
  private void read() {
    try (BufferedReader lines = new BufferedReader(
        new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
      String line;
      while ((line = lines.readLine()) != null) {
        JsonNode node = JSON.readTree(line);
        if (node.has("event")) {
          events.add(node);
        } else {
          answers.add(node);
        }
      }
    } catch (IOException | JacksonException e) {
      // The process has ended; whoever waits for an answer is told below.
    }
    answers.add(JSON.createObjectNode().put("ended", true));
  }

  List<JsonNode> events() {
    return events;
  }

  private JsonNode answer() throws EngineFailed {
    try {
      JsonNode answer = answers.poll(ANSWER_LIMIT_SECONDS, TimeUnit.SECONDS);
      if (answer == null || answer.has("ended")) {
        throw new EngineFailed(
            answer == null ? "QEMU does not answer" : "QEMU ended by itself", null);
      }
      return answer;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new EngineFailed("interrupted while QEMU worked", e);
    }
  }

  /** Waits for the greeting and begins. */
  void begin() throws EngineFailed {
    if (!answer().has("QMP")) {
      throw new EngineFailed("QEMU did not greet as expected", null);
    }
    ask("qmp_capabilities", Map.of());
  }

  JsonNode ask(String command, Map<String, ?> arguments) throws EngineFailed {
    send(command, arguments);
    JsonNode answer = answer();
    if (answer.has("error")) {
      throw new EngineFailed(
          "QEMU refused " + command + ": " + answer.get("error").path("desc").asString(), null);
    }
    return answer.path("return");
  }

  private void send(String command, Map<String, ?> arguments) throws BootEngine.EngineFailed {
    try {
      String line = JSON.writeValueAsString(
          arguments.isEmpty()
              ? Map.of("execute", command)
              : Map.of("execute", command, "arguments", arguments));
      out.write((line + "\n").getBytes(StandardCharsets.UTF_8));
      out.flush();
    } catch (IOException e) {
      throw new EngineFailed("QEMU ended by itself", e);
    }
  }

  /** A command of the monitor for people, which alone can read ports and registers. */
  String human(String command) throws EngineFailed {
    return ask("human-monitor-command", Map.of("command-line", command)).asString();
  }

  /**
   * What is read at a port.
   *
   * @param where size and address as the monitor takes them, such as {@code /b 0x3d4}
   */
  long port(String where) throws EngineFailed {
    String answer = human("i " + where); // portb[0x3d4] = 0x0e
    String value = answer.substring(answer.indexOf('=') + 1).strip();
    if (!value.matches("0x[0-9a-f]{1,8}")) {
      throw new EngineFailed("QEMU answered '" + answer.strip() + "' for a port", null);
    }
    return Long.decode(value);
  }

  /** A machine that ended itself just before it was stopped can't go on, and its events say how it ended. */
  void goOn() throws EngineFailed {
    try {
      ask("cont", Map.of());
    } catch (EngineFailed e) {
      if (!ask("query-status", Map.of()).path("status").asString("").equals("shutdown")) {
        throw e;
      }
    }
  }
}
