package hardproof.server.outside;

import hardproof.server.runs.Run;
import java.time.Instant;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Events as the CloudEvents specification 1.0 writes them, in its JSON format. */
public final class CloudEvent {
  public static final String MEDIA_TYPE = "application/cloudevents+json";
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private CloudEvent() {}

  private static ObjectNode event(
      String id, String source, String type, String subject, Instant now) {
    ObjectNode event = JSON.createObjectNode();
    event.put("specversion", "1.0");
    event.put("id", id);
    event.put("source", "/hard-proof/" + source);
    event.put("type", type);
    event.put("subject", subject);
    event.put("time", now.toString());
    event.put("datacontenttype", "application/json");
    return event;
  }

  /** A run restored something and waits for an answer. */
  public static String drillRestored(
      String id, Run run, String answerTo, Instant until, Instant now) {
    ObjectNode event = event(id, "drills", "hardproof.drill.restored", run.resource(), now);
    addData(run, answerTo, until, event);
    return event.toString();
  }

  /** What an alert says: its kind, what happened to it, and what it is about. */
  public record Told(String kind, String what, String subject, String name, String sentence) {}

  /** An alert opened, is still open, or closed. */
  public static String alert(String id, Told told, Instant openedAt, Instant now) {
    ObjectNode event = event(id, "alerts", "hardproof.alert." + told.what(), told.subject(), now);
    ObjectNode data = event.putObject("data");
    data.put("kind", told.kind());
    data.put("name", told.name());
    data.put("sentence", told.sentence());
    data.put("open_since", openedAt.toString());
    return event.toString();
  }

  /**
   * What a report that was issued is.
   *
   * @param link where it is read
   * @param files by name, the SHA-256 of each
   * @param head the head of the ledger, where it is one, as the JSON that is signed and kept; null otherwise
   */
  public record IssuedTold(
      String kind,
      String title,
      String scope,
      Instant asAt,
      String link,
      Map<String, String> files,
      @Nullable String head) {}

  /** A report was issued. */
  public static String report(String id, IssuedTold told, Instant now) {
    ObjectNode event = event(id, "reports", "hardproof.report.issued", told.kind(), now);
    ObjectNode data = event.putObject("data");
    data.put("title", told.title());
    data.put("scope", told.scope());
    data.put("as_at", told.asAt().toString());
    data.put("read_at", told.link());
    ObjectNode files = data.putObject("sha256");
    told.files().forEach(files::put);
    if (told.head() != null) {
      data.put("head", told.head());
    }
    return event.toString();
  }

  private static void addData(Run run, String answerTo, Instant until, ObjectNode event) {
    ObjectNode data = event.putObject("data");
    data.put("run", run.id());
    data.put("resource", run.resource());
    data.put("point", run.point());
    data.put("store", run.store());
    data.put("method", run.method().code());
    data.put("reason", run.reason());
    data.put("found", run.sentence());
    data.put("answer_to", answerTo);
    data.put("answer_until", until.toString());
  }
}
