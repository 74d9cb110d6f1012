package hardproof.server.ledger;

import hardproof.core.ledger.Digest;
import hardproof.server.storage.Database;
import java.io.IOException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** Heads that were signed, each kept for ever. */
public final class LedgerHeads {
  private final Database database;
  private final Ledger ledger;
  private final LedgerKeys keys;
  private final Clock clock;

  public LedgerHeads(Database database, Ledger ledger, LedgerKeys keys, Clock clock) {
    this.database = database;
    this.ledger = ledger;
    this.keys = keys;
    this.clock = clock;
  }

  /**
   * The head of the ledger as it is: the one that was signed last, where nothing came since, or a new one.
   *
   * @throws LedgerKeys.NoKey when there is no key to sign it with
   */
  public TreeHead current() {
    var key = keys.current();
    return database.write(() -> {
      long size = ledger.size();
      Optional<TreeHead> last = newest();
      if (last.isPresent()
          && last.get().size() == size
          && Arrays.equals(last.get().publicKey(), key.publicKey())) {
        return last.get();
      }
      List<LedgerKeys.Key> known = keys.all();
      if (known.isEmpty()
          || !Arrays.equals(known.get(known.size() - 1).publicKey(), key.publicKey())) {
        throw new LedgerKeys.NoKey("Another key has just followed; try again.");
      }
      Digest root = ledger.tree().root(size);
      Instant now = Instant.ofEpochMilli(clock.millis());
      TreeHead head = TreeHead.sign(size, root, now, key);
      keep(head);
      return head;
    });
  }

  /**
   * Ends the key that signs. The last head that it signs holds that it ended; nothing is signed after it until another
   * key begins.
   *
   * @throws LedgerKeys.NoKey when there is none
   */
  public TreeHead end(String by, String reason) throws IOException {
    // Before the turn to write, as whoever lets another key follow does.
    synchronized (keys) {
      return ended(by, reason);
    }
  }

  private TreeHead ended(String by, String reason) throws IOException {
    var key = keys.current();
    TreeHead last = database.write(() -> {
      long size = keys.end(by, reason) + 1;
      Digest root = ledger.treeInWriting().root(size);
      TreeHead head = TreeHead.sign(size, root, Instant.ofEpochMilli(clock.millis()), key);
      keep(head);
      return head;
    });
    keys.forget();
    return last;
  }

  private void keep(TreeHead head) {
    database
        .writes()
        .sql("INSERT INTO ledger_head (size, at, body, signature, public_key)"
            + " VALUES (:size, :at, :body, :signature, :key)")
        .param("size", head.size())
        .param("at", head.at().toEpochMilli())
        .param("body", head.body())
        .param("signature", head.signature())
        .param("key", head.publicKey())
        .update();
  }

  /** The one that was signed last. */
  public Optional<TreeHead> newest() {
    return select("ORDER BY id DESC LIMIT 1").stream().findFirst();
  }

  /** All, by their size. */
  public List<TreeHead> all() {
    return select("ORDER BY size, id");
  }

  private List<TreeHead> select(String rest) {
    return database
        .reads()
        .sql("SELECT body, signature, public_key FROM ledger_head " + rest)
        .query((r, n) -> head(r))
        .list();
  }

  private static TreeHead head(ResultSet r) throws SQLException {
    return TreeHead.of(r.getString(1), r.getBytes(2), r.getBytes(3));
  }
}
