package hardproof.server.ledger;

import hardproof.core.ledger.Digest;
import java.time.Instant;
import java.util.Map;
import java.util.TreeMap;

/**
 * An entry of the ledger.
 *
 * @param number from 0 on, in the order in which entries were written
 * @param key of the fact among those of its kind
 * @param body the canonical JSON that the tree is made of
 */
public record LedgerEntry(long number, LedgerKind kind, String key, String body) {

  /**
   * One that is to be written.
   *
   * @param later whether it was recorded long after it happened
   */
  static LedgerEntry of(
      long number, LedgerKind kind, String key, Recorded recorded, boolean later) {
    Map<String, Object> body = new TreeMap<>();
    body.put("number", number);
    body.put("kind", kind.code());
    body.put("key", key);
    body.put("at", recorded.at().toString());
    body.put("actor", recorded.actor());
    body.put("content", recorded.content());
    if (later) {
      body.put("recorded", "later");
    }
    return new LedgerEntry(number, kind, key, CanonicalJson.of(body));
  }

  /** Who did it and when, and what is recorded of it. */
  record Recorded(String actor, Instant at, Map<String, Object> content) {}

  /** Its leaf in the tree. */
  public Digest leaf() {
    return Digest.leaf(body);
  }
}
