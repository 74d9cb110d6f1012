package hardproof.server.proof;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.Map;
import java.util.WeakHashMap;
import java.util.zip.GZIPOutputStream;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * The Board of an evaluation as it is sent, compressed: ten thousand rows are not written anew for each who
 * looks, and those of the newest evaluation are ready before anybody does.
 */
@Component
class BoardAnswers {
  private final JsonMapper json;
  private final Map<Evaluated, byte[]> answers = new WeakHashMap<>();

  BoardAnswers(JsonMapper json, Evaluations evaluations) {
    this.json = json;
    evaluations.onFresh(this::gzipped);
  }

  /** JSON of the {@link BoardView}, by gzip. */
  byte[] gzipped(Evaluated evaluated) {
    synchronized (answers) {
      return answers.computeIfAbsent(evaluated, this::write);
    }
  }

  private byte[] write(Evaluated evaluated) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (OutputStream out = new GZIPOutputStream(bytes)) {
      json.writeValue(out, BoardView.of(evaluated.evaluation()));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return bytes.toByteArray();
  }
}
