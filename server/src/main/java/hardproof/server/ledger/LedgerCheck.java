package hardproof.server.ledger;

import hardproof.core.ledger.Digest;
import hardproof.core.wording.Wording;
import hardproof.server.storage.Database;
import hardproof.server.storage.UnreadableRow;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Holds the whole ledger to itself and to what it tells of: every hash is worked out again, every head that was ever
 * signed is looked for in it, and every fact is compared with its entry. For one check.
 */
final class LedgerCheck {
  private static final int PAGE = 500;
  private static final int DIFFERENCES_SAID = 20;
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final Database database;
  private final Ledger ledger;
  private final LedgerHeads heads;
  private final Watcher watcher;
  private final EntryDifference difference;
  private final List<String> differences = new ArrayList<>();
  private final List<LedgerEntry> keys = new ArrayList<>();
  private long differencesFound;

  /** The hashes of full subtrees that stand for all entries so far, the largest first. */
  private final Deque<Full> full = new ArrayDeque<>();

  private record Full(int level, long position, Digest hash) {}

  /** Told how far it has come; it says whether to go on. */
  interface Watcher {
    boolean goesOn(long done, long all);
  }

  /**
   * What came of it.
   *
   * @param size entries that were looked at
   * @param differences in words; empty when there is none
   * @param found how many there are, which may be more than are said
   */
  record Outcome(long size, List<String> differences, long found) {}

  /** It was stopped. */
  static final class Stopped extends RuntimeException {
    private static final long serialVersionUID = 1L;

    Stopped() {
      super("the check of the ledger was stopped");
    }
  }

  LedgerCheck(Database database, Ledger ledger, LedgerHeads heads, Watcher watcher) {
    this.database = database;
    this.ledger = ledger;
    this.heads = heads;
    this.watcher = watcher;
    this.difference = new EntryDifference(new RecordedFacts(database.reads()));
  }

  /**
   * Looks at all of it, as it is at this moment.
   *
   * @throws Stopped when the watcher says so
   */
  Outcome check() {
    return database.read(() -> {
      long size = ledger.size();
      try {
        entriesAndHeads(size);
        nodesTooMany(size);
        keyFaults();
      } catch (UnreadableRow | IllegalArgumentException e) {
        // Somebody may want just that: what can't be read can't be checked.
        differ("it can't be read any further: " + e.getMessage());
      }
      factsWithout();
      return new Outcome(size, List.copyOf(differences), differencesFound);
    });
  }

  private void entriesAndHeads(long size) {
    Iterator<TreeHead> signed = heads.all().iterator();
    TreeHead head = signed.hasNext() ? signed.next() : null;
    long next = 0;
    while (next < size) {
      if (!watcher.goesOn(next, size)) {
        throw new Stopped();
      }
      for (LedgerEntry entry : page(next)) {
        if (entry.number() != next) {
          differ("entries " + next + " to " + (entry.number() - 1) + " are missing");
          next = entry.number();
        }
        take(entry);
        next++;
        while (head != null && head.size() <= next) {
          hold(head, next);
          head = signed.hasNext() ? signed.next() : null;
        }
      }
    }
    while (head != null) {
      differ("the head of " + head.at() + " was signed over " + head.size()
          + " entries, and there are " + size + ": the ledger was put back to an older state");
      head = signed.hasNext() ? signed.next() : null;
    }
  }

  /** One by one where there is one that can't be read, so that it is known which. */
  private List<LedgerEntry> page(long next) {
    try {
      return ledger.from(next, PAGE);
    } catch (UnreadableRow e) {
      List<LedgerEntry> readable = new ArrayList<>();
      long number = next;
      while (true) {
        try {
          readable.addAll(ledger.from(number, 1));
          number = readable.get(readable.size() - 1).number() + 1;
        } catch (UnreadableRow one) {
          if (readable.isEmpty()) {
            throw new IllegalArgumentException("entry " + number + ": " + one.getMessage(), one);
          }
          return readable;
        }
      }
    }
  }

  private void differ(String difference) {
    differencesFound++;
    if (differences.size() < DIFFERENCES_SAID) {
      differences.add(difference);
    }
  }

  private void take(LedgerEntry entry) {
    JsonNode body = body(entry);
    if (body != null) {
      difference.of(entry, body).ifPresent(this::differ);
    }
    add(new Full(0, entry.number(), entry.leaf()));
    if (entry.kind() == LedgerKind.KEY) {
      keys.add(entry);
    }
  }

  private void add(Full leaf) {
    Full hash = leaf;
    while (true) {
      Optional<Digest> kept = Ledger.node(database.reads(), hash.level(), hash.position());
      if (!kept.equals(Optional.of(hash.hash()))) {
        long first = hash.position() << hash.level();
        differ(
            hash.level() == 0
                ? "entry " + first + " was changed after it was recorded"
                : "the hash over entries " + first + " to "
                    + ((hash.position() + 1 << hash.level()) - 1) + " is not that of the entries");
      }
      if ((hash.position() & 1) == 0 || full.isEmpty()) {
        full.addLast(hash);
        return;
      }
      Full left = full.removeLast();
      hash =
          new Full(hash.level() + 1, hash.position() >>> 1, Digest.node(left.hash(), hash.hash()));
    }
  }

  private Digest root() {
    Digest root = null;
    Iterator<Full> smallestFirst = full.descendingIterator();
    while (smallestFirst.hasNext()) {
      Digest hash = smallestFirst.next().hash();
      root = root == null ? hash : Digest.node(hash, root);
    }
    return root == null ? Digest.OF_NOTHING : root;
  }

  private void hold(TreeHead head, long size) {
    String which =
        "the head of " + head.at() + " over " + Wording.count(head.size(), "entry", "entries");
    if (!head.verifies()) {
      differ(which + " has a signature that is not of it");
    } else if (head.size() != size || !head.root().equals(root())) {
      differ(which + " has another root than the entries: what it stood for was rewritten");
    }
    LedgerKeys.Key signing = signing(head.size());
    if (signing != null && !Arrays.equals(signing.publicKey(), head.publicKey())) {
      differ(which + " is signed by another key than the one that signed then");
    }
  }

  private LedgerKeys.@Nullable Key signing(long size) {
    try {
      return LedgerKeys.signing(keys, size);
    } catch (IllegalArgumentException e) {
      return null; // Said of the entry itself.
    }
  }

  private @Nullable JsonNode body(LedgerEntry entry) {
    JsonNode body;
    try {
      body = JSON.readTree(entry.body());
    } catch (JacksonException e) {
      differ("entry " + entry.number() + " is no JSON");
      return null;
    }
    boolean same = body.path("number").asLong(-1) == entry.number()
        && body.path("kind").asString("").equals(entry.kind().code())
        && body.path("key").asString("").equals(entry.key());
    if (!same) {
      differ(
          "entry " + entry.number() + " is filed under another number, kind or key than it says");
    }
    return body;
  }

  /** Hashes of more entries than there are: those at the end were taken away. */
  private void nodesTooMany(long size) {
    long more = database
        .reads()
        .sql("SELECT count(*) FROM ledger_node WHERE level = 0 AND position >= :size")
        .param("size", size)
        .query(Long.class)
        .single();
    if (more > 0) {
      differ("the last " + Wording.count(more, "entry is", "entries are") + " missing");
    }
  }

  private void keyFaults() {
    try {
      List<LedgerKeys.Key> all = keys.stream().map(e -> LedgerKeys.of(e.body())).toList();
      if (all.isEmpty()) {
        differ("no entry tells of the key that signs");
      }
      LedgerKeys.faults(all).forEach(this::differ);
    } catch (IllegalArgumentException e) {
      differ("an entry tells of a key that is none");
    }
  }

  /** What has happened and has no entry. */
  private void factsWithout() {
    for (LedgerKind kind : LedgerKind.values()) {
      if (kind.all() == null) {
        continue;
      }
      Set<String> without = new HashSet<>(database
          .reads()
          .sql(
              "WITH f (key, at) AS (" + kind.all() + ") SELECT CAST(key AS TEXT) FROM f"
                  + " WHERE NOT EXISTS (SELECT 1 FROM ledger_entry e WHERE e.kind = :kind AND e.key = CAST(f.key AS TEXT))")
          .param("kind", kind.code())
          .query(String.class)
          .list());
      without.stream()
          .sorted()
          .forEach(key -> differ(
              kind.words() + " " + key + " has no entry: it was put there beside the ledger"));
    }
  }
}
