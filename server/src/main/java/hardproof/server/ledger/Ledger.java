package hardproof.server.ledger;

import hardproof.core.ledger.Digest;
import hardproof.core.ledger.MerkleTree;
import hardproof.core.wording.Coded;
import hardproof.server.ledger.LedgerEntry.Recorded;
import hardproof.server.storage.Database;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * The ledger in the database. Whatever is due in it (triggers say so) gets its entry before the transaction that
 * brought it about ends: one is never there without the other. Hashes of full subtrees are kept, so that a root and a
 * proof cost a few rows, however long it is.
 */
public final class Ledger {
  private final Database database;

  public Ledger(Database database) {
    this.database = database;
  }

  /** From now on no transaction that writes ends before what it brought about is in the ledger. */
  void keepUp() {
    database.beforeCommit(this::recordDue);
  }

  /** Something without which the tree can't be worked out is not there. */
  static final class Broken extends RuntimeException {
    private static final long serialVersionUID = 1L;

    Broken(String message) {
      super(message);
    }
  }

  private record Due(long id, LedgerKind kind, String key, boolean later) {}

  private void recordDue() {
    JdbcClient sql = database.writes();
    List<Due> due = sql.sql("SELECT id, kind, key, later FROM ledger_due ORDER BY id")
        .query((r, n) -> new Due(
            r.getLong(1),
            Coded.of(LedgerKind.class, r.getString(2)),
            r.getString(3),
            r.getInt(4) == 1))
        .list();
    if (due.isEmpty()) {
      return;
    }
    RecordedFacts facts = new RecordedFacts(sql);
    for (Due one : due) {
      // What was taken back in the same transaction has not happened.
      facts
          .find(one.kind(), one.key())
          .ifPresent(f -> append(one.kind(), one.key(), f, one.later()));
    }
    sql.sql("DELETE FROM ledger_due WHERE id <= :last")
        .param("last", due.get(due.size() - 1).id())
        .update();
  }

  /** Makes all due that happened before there was a ledger, in the order in which it did. */
  void carryOver() {
    StringBuilder all = new StringBuilder();
    for (LedgerKind kind : LedgerKind.values()) {
      if (kind.all() != null) {
        all.append(all.isEmpty() ? "" : " UNION ALL ")
            .append("SELECT '")
            .append(kind.code())
            .append("' AS kind, * FROM (")
            .append(kind.all())
            .append(')');
      }
    }
    JdbcClient sql = database.writes();
    sql.sql("DELETE FROM ledger_due").update();
    sql.sql(
            "WITH happened (kind, key, at) AS (" + all
                + ") INSERT INTO ledger_due (kind, key, later) SELECT kind, key, 1 FROM happened ORDER BY at")
        .update();
  }

  /** Writes an entry; in the transaction that is open. */
  LedgerEntry append(LedgerKind kind, String key, Recorded recorded, boolean later) {
    LedgerEntry entry = LedgerEntry.of(next(), kind, key, recorded, later);
    database
        .writes()
        .sql(
            "INSERT INTO ledger_entry (number, kind, key, body) VALUES (:number, :kind, :key, :body)")
        .param("number", entry.number())
        .param("kind", kind.code())
        .param("key", key)
        .param("body", entry.body())
        .update();
    grow(entry.number(), entry.leaf());
    return entry;
  }

  /** After all that there is and was: where an entry is missing, what goes on must not be taken for it. */
  private long next() {
    return database.writes().sql("""
            SELECT max(coalesce((SELECT max(number) FROM ledger_entry), -1),
                       coalesce((SELECT max(position) FROM ledger_node WHERE level = 0), -1)) + 1
            """).query(Long.class).single();
  }

  private void grow(long number, Digest leaf) {
    Digest hash = leaf;
    long position = number;
    int level = 0;
    keep(level, position, hash);
    while ((position & 1) == 1) {
      Optional<Digest> left = node(database.writes(), level, position - 1);
      if (left.isEmpty()) {
        return; // Somebody has taken it away: what is checked says so, and drills go on.
      }
      hash = Digest.node(left.get(), hash);
      position >>>= 1;
      level++;
      keep(level, position, hash);
    }
  }

  private void keep(int level, long position, Digest hash) {
    database
        .writes()
        .sql("INSERT INTO ledger_node (level, position, hash) VALUES (:level, :position, :hash)")
        .param("level", level)
        .param("position", position)
        .param("hash", HexFormat.of().parseHex(hash.toString()))
        .update();
  }

  static Optional<Digest> node(JdbcClient sql, int level, long position) {
    return sql.sql("SELECT hash FROM ledger_node WHERE level = :level AND position = :position")
        .param("level", level)
        .param("position", position)
        .query((r, n) -> Digest.of(HexFormat.of().formatHex(r.getBytes(1))))
        .optional();
  }

  /** How many entries there are. */
  public long size() {
    return database
        .reads()
        .sql("SELECT coalesce(max(number) + 1, 0) FROM ledger_entry")
        .query(Long.class)
        .single();
  }

  /** Its tree, in the transaction that is open, if one is. */
  public MerkleTree tree() {
    return tree(database.reads());
  }

  /** Its tree with what the transaction that is open has written. */
  MerkleTree treeInWriting() {
    return tree(database.writes());
  }

  private static MerkleTree tree(JdbcClient sql) {
    return new MerkleTree((level, position) -> node(sql, level, position)
        .orElseThrow(() -> new Broken("the hash over entries " + (position << level) + " to "
            + ((position + 1 << level) - 1) + " is not there")));
  }

  /** Entries from a number on, in their order. */
  List<LedgerEntry> from(long number, int atMost) {
    return select("WHERE number >= :number ORDER BY number LIMIT :most")
        .param("number", number)
        .param("most", atMost)
        .query((r, n) -> entry(r))
        .list();
  }

  /** Entries before a number, the newest first. */
  List<LedgerEntry> before(long number, int atMost) {
    return select("WHERE number < :number ORDER BY number DESC LIMIT :most")
        .param("number", number)
        .param("most", atMost)
        .query((r, n) -> entry(r))
        .list();
  }

  /** The entry of a fact; of several the first. */
  public Optional<LedgerEntry> of(LedgerKind kind, String key) {
    return select("WHERE kind = :kind AND key = :key ORDER BY number LIMIT 1")
        .param("kind", kind.code())
        .param("key", key)
        .query((r, n) -> entry(r))
        .optional();
  }

  /** All entries of a kind, in their order. */
  public List<LedgerEntry> all(LedgerKind kind) {
    return select("WHERE kind = :kind ORDER BY number")
        .param("kind", kind.code())
        .query((r, n) -> entry(r))
        .list();
  }

  private JdbcClient.StatementSpec select(String which) {
    return database.reads().sql("SELECT number, kind, key, body FROM ledger_entry " + which);
  }

  private static LedgerEntry entry(java.sql.ResultSet r) throws java.sql.SQLException {
    return new LedgerEntry(
        r.getLong(1), Coded.of(LedgerKind.class, r.getString(2)), r.getString(3), r.getString(4));
  }
}
