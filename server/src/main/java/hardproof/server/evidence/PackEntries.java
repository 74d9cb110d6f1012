package hardproof.server.evidence;

import hardproof.core.ledger.MerkleProofs;
import hardproof.server.evidence.PackProofs.Included;
import hardproof.server.ledger.LedgerEntry;
import hardproof.server.ledger.LedgerKeys;
import hardproof.server.ledger.LedgerKind;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What the entries in a pack tell, of those that are in the ledger as its head has it. */
final class PackEntries {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  /** By kind and key of the fact; of several states of one fact the one that was recorded last. */
  private final Map<LedgerKind, Map<String, JsonNode>> told = new EnumMap<>(LedgerKind.class);

  private final List<LedgerEntry> keys = new ArrayList<>();
  private long later;

  /**
   * Reads all entries of a pack.
   *
   * @param wrong told of each that is not to be relied on, and why
   */
  PackEntries(PackProofs proofs, List<String> wrong) {
    long before = -1;
    for (Included included : proofs.entries()) {
      LedgerEntry entry = included.entry();
      if (entry.number() <= before) {
        // Which of two states is the later one is told by the order.
        wrong.add("entry " + entry.number() + " stands after entry " + before);
      } else if (!MerkleProofs.included(
          entry.leaf(),
          entry.number(),
          proofs.head().size(),
          included.path(),
          proofs.head().root())) {
        wrong.add("entry " + entry.number() + " is not in the ledger that the head stands for");
      } else {
        file(entry, wrong);
      }
      before = Math.max(before, entry.number());
    }
  }

  private void file(LedgerEntry entry, List<String> wrong) {
    JsonNode body;
    try {
      body = JSON.readTree(entry.body());
    } catch (JacksonException e) {
      wrong.add("entry " + entry.number() + " is no JSON");
      return;
    }
    if (body.path("number").asLong(-1) != entry.number()
        || !body.path("kind").asString("").equals(entry.kind().code())
        || !body.path("key").asString("").equals(entry.key())) {
      wrong.add("entry " + entry.number() + " is called otherwise than it says itself");
      return;
    }
    if (entry.kind() == LedgerKind.KEY) {
      key(entry, wrong);
    }
    later += recordedLater(body) ? 1 : 0;
    told.computeIfAbsent(entry.kind(), k -> new TreeMap<>()).put(fact(entry), body);
  }

  /** Only what tells of a key is kept as one. */
  private void key(LedgerEntry entry, List<String> wrong) {
    try {
      LedgerKeys.of(entry.body());
      keys.add(entry);
    } catch (IllegalArgumentException e) {
      wrong.add("entry " + entry.number() + " tells of a key that is none");
    }
  }

  /** What all states of one fact have in common. */
  private static String fact(LedgerEntry entry) {
    return switch (entry.kind()) {
      case EXCEPTION -> PackLedger.afterSpace(entry.key());
      case CLEAN_UP -> PackLedger.beforeSpace(entry.key());
      default -> entry.key();
    };
  }

  /** The entry of a fact; null where there is none. */
  @Nullable
  JsonNode of(LedgerKind kind, String fact) {
    return told.getOrDefault(kind, Map.of()).get(fact);
  }

  /** What was put in force last by an instant; null where nothing was. */
  @Nullable
  JsonNode inForce(Instant asAt) {
    return told.getOrDefault(LedgerKind.STANDARD_IN_FORCE, Map.of()).values().stream()
        .filter(e -> !since(e).isAfter(asAt))
        .reduce((one, other) -> number(one) > number(other) ? one : other)
        .map(e -> e.path("content"))
        .orElse(null);
  }

  private static long number(JsonNode entry) {
    return entry.path("number").asLong(-1);
  }

  static Instant since(JsonNode entry) {
    return Instant.parse(entry.path("content").path("since").asString(""));
  }

  /** Entries that tell of keys, in their order. */
  List<LedgerEntry> keyEntries() {
    return keys;
  }

  List<LedgerKeys.Key> keys() {
    return keys.stream().map(e -> LedgerKeys.of(e.body())).toList();
  }

  /** How many were recorded long after what they tell of. */
  long later() {
    return later;
  }

  static boolean recordedLater(JsonNode entry) {
    return entry.path("recorded").asString("").equals("later");
  }
}
