-- The ledger: every fact that carries proof is an entry, in the order in which it was recorded, and the entries
-- are the leaves of a Merkle tree (RFC 9162). Nothing of it is changed, removed or put in another's place.
CREATE TABLE ledger_entry (
  number INTEGER PRIMARY KEY CHECK (number >= 0), kind TEXT NOT NULL, key TEXT NOT NULL, body TEXT NOT NULL
) STRICT;
CREATE INDEX ledger_entry_by_fact ON ledger_entry (kind, key);
-- Hashes over 2^level entries from position * 2^level on, once all of them are there.
CREATE TABLE ledger_node (
  level INTEGER NOT NULL, position INTEGER NOT NULL, hash BLOB NOT NULL CHECK (length(hash) = 32),
  PRIMARY KEY (level, position)
) STRICT, WITHOUT ROWID;
-- Heads as they were signed: the bytes that the signature is over, and the key that made it.
CREATE TABLE ledger_head (
  id INTEGER PRIMARY KEY, size INTEGER NOT NULL, at INTEGER NOT NULL, body TEXT NOT NULL, signature BLOB NOT NULL,
  public_key BLOB NOT NULL
) STRICT;
CREATE INDEX ledger_head_by_size ON ledger_head (size);
-- What has happened and has no entry yet; empty after every transaction.
CREATE TABLE ledger_due (
  id INTEGER PRIMARY KEY, kind TEXT NOT NULL, key TEXT NOT NULL, later INTEGER NOT NULL DEFAULT 0
) STRICT;

CREATE TRIGGER ledger_entry_is_never_changed BEFORE UPDATE ON ledger_entry
BEGIN SELECT RAISE(ABORT, 'the ledger is not changed'); END;
CREATE TRIGGER ledger_entry_is_never_removed BEFORE DELETE ON ledger_entry
BEGIN SELECT RAISE(ABORT, 'nothing of the ledger is removed'); END;
CREATE TRIGGER ledger_entry_comes_last BEFORE INSERT ON ledger_entry
WHEN NEW.number <= (SELECT max(number) FROM ledger_entry)
BEGIN SELECT RAISE(ABORT, 'an entry of the ledger comes after all others'); END;
CREATE TRIGGER ledger_node_is_never_changed BEFORE UPDATE ON ledger_node
BEGIN SELECT RAISE(ABORT, 'the ledger is not changed'); END;
CREATE TRIGGER ledger_node_is_never_removed BEFORE DELETE ON ledger_node
BEGIN SELECT RAISE(ABORT, 'nothing of the ledger is removed'); END;
CREATE TRIGGER ledger_node_is_never_replaced BEFORE INSERT ON ledger_node
WHEN EXISTS (SELECT 1 FROM ledger_node WHERE level = NEW.level AND position = NEW.position)
BEGIN SELECT RAISE(ABORT, 'the ledger is not changed'); END;
CREATE TRIGGER ledger_head_is_never_changed BEFORE UPDATE ON ledger_head
BEGIN SELECT RAISE(ABORT, 'the ledger is not changed'); END;
CREATE TRIGGER ledger_head_is_never_removed BEFORE DELETE ON ledger_head
BEGIN SELECT RAISE(ABORT, 'nothing of the ledger is removed'); END;
CREATE TRIGGER ledger_head_is_never_replaced BEFORE INSERT ON ledger_head
WHEN EXISTS (SELECT 1 FROM ledger_head WHERE id = NEW.id)
BEGIN SELECT RAISE(ABORT, 'the ledger is not changed'); END;
-- REPLACE removes a row without being a DELETE.
CREATE TRIGGER activity_is_never_replaced BEFORE INSERT ON activity
WHEN EXISTS (SELECT 1 FROM activity WHERE id = NEW.id)
BEGIN SELECT RAISE(ABORT, 'what was done is not changed'); END;

-- What all outcomes came to, once a day: a digest stands for every one of them.
CREATE TABLE outcome_snapshot (
  id INTEGER PRIMARY KEY, as_at INTEGER NOT NULL, known_at INTEGER NOT NULL, standard TEXT NOT NULL,
  verdicts TEXT NOT NULL, outcomes TEXT NOT NULL, workloads_sha256 TEXT NOT NULL, findings_sha256 TEXT NOT NULL
) STRICT;

-- Whatever writes one of these, and by whichever way, it is due in the ledger from the same transaction on.
CREATE TRIGGER drill_run_is_due AFTER UPDATE OF ended_at ON drill_run
WHEN OLD.ended_at IS NULL AND NEW.ended_at IS NOT NULL
BEGIN INSERT INTO ledger_due (kind, key) VALUES ('drill', NEW.id); END;
CREATE TRIGGER cleanup_change_is_due AFTER INSERT ON cleanup_change
BEGIN INSERT INTO ledger_due (kind, key) VALUES ('clean-up', NEW.run || ' ' || NEW.at || ' ' || NEW.state); END;
CREATE TRIGGER read_back_is_due AFTER INSERT ON read_back
BEGIN INSERT INTO ledger_due (kind, key) VALUES ('read-back', NEW.id); END;
CREATE TRIGGER exception_is_due AFTER INSERT ON exception
BEGIN INSERT INTO ledger_due (kind, key) VALUES ('exception', NEW.recorded_at || ' ' || NEW.key); END;
CREATE TRIGGER standard_is_due AFTER INSERT ON standard
BEGIN INSERT INTO ledger_due (kind, key) VALUES ('standard', NEW.version || ' ' || NEW.name); END;
CREATE TRIGGER standard_in_force_is_due AFTER INSERT ON standard_in_force
BEGIN INSERT INTO ledger_due (kind, key) VALUES ('standard-in-force', NEW.id); END;
CREATE TRIGGER programme_draw_is_due AFTER INSERT ON programme_draw
BEGIN INSERT INTO ledger_due (kind, key) VALUES ('draw', NEW.due_at || ' ' || NEW.programme); END;
CREATE TRIGGER pack_is_due AFTER INSERT ON pack
BEGIN INSERT INTO ledger_due (kind, key) VALUES ('pack', NEW.id); END;
CREATE TRIGGER activity_is_due AFTER INSERT ON activity
BEGIN INSERT INTO ledger_due (kind, key) VALUES ('activity', NEW.id); END;
CREATE TRIGGER outcome_snapshot_is_due AFTER INSERT ON outcome_snapshot
BEGIN INSERT INTO ledger_due (kind, key) VALUES ('outcomes', NEW.id); END;
