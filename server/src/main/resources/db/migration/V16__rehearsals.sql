-- A rehearsal brings all members of a workload back in their order: each by a drill of its own.
CREATE TABLE rehearsal (
  id TEXT PRIMARY KEY, workload TEXT NOT NULL, moment INTEGER NOT NULL, loss TEXT, lost TEXT NOT NULL, at_once INTEGER NOT NULL,
  stay_ms INTEGER NOT NULL, hold_ms INTEGER NOT NULL, reason TEXT NOT NULL, requested_by TEXT NOT NULL, programme TEXT,
  queued_at INTEGER NOT NULL, not_after INTEGER, started_at INTEGER, ended_at INTEGER, planned_ms INTEGER NOT NULL, rto_ms INTEGER NOT NULL, spread_ms INTEGER,
  cancel_asked INTEGER NOT NULL DEFAULT 0, outcome TEXT, clock_ms INTEGER, expected_ms INTEGER, path TEXT, sentence TEXT NOT NULL DEFAULT '',
  CHECK ((ended_at IS NULL) = (outcome IS NULL))
) STRICT;
-- One at a time of a workload.
CREATE UNIQUE INDEX rehearsal_under_way ON rehearsal (workload) WHERE ended_at IS NULL;
CREATE INDEX rehearsal_by_end ON rehearsal (ended_at);
-- In the order in which they are planned to begin; needs are keys of other members.
CREATE TABLE rehearsal_member (
  rehearsal TEXT NOT NULL REFERENCES rehearsal, number INTEGER NOT NULL, resource TEXT NOT NULL, name TEXT NOT NULL,
  comes_with TEXT, needs TEXT NOT NULL, point TEXT, store TEXT, method TEXT, estimate TEXT, planned_begin_ms INTEGER NOT NULL,
  planned_end_ms INTEGER NOT NULL, run TEXT REFERENCES drill_run, state TEXT NOT NULL, sentence TEXT NOT NULL DEFAULT '',
  PRIMARY KEY (rehearsal, number)
) STRICT, WITHOUT ROWID;
ALTER TABLE drill_run ADD COLUMN rehearsal TEXT REFERENCES rehearsal;
CREATE INDEX drill_run_by_rehearsal ON drill_run (rehearsal) WHERE rehearsal IS NOT NULL;
CREATE TRIGGER rehearsal_is_due AFTER UPDATE OF ended_at ON rehearsal
WHEN OLD.ended_at IS NULL AND NEW.ended_at IS NOT NULL
BEGIN INSERT INTO ledger_due (kind, key) VALUES ('rehearsal', NEW.id); END;
