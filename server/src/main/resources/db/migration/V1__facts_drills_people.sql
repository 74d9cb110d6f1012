-- Instants and durations are whole milliseconds; booleans 0 or 1; NULL means "not known".
-- A fact is never changed: a new state of it is a new row, and the old row gets replaced_at.

CREATE TABLE change_counter (id INTEGER PRIMARY KEY CHECK (id = 1), value INTEGER NOT NULL) STRICT;
INSERT INTO change_counter VALUES (1, 0);

CREATE TABLE feed (
  key TEXT PRIMARY KEY,
  expected_every_ms INTEGER CHECK (expected_every_ms > 0)
) STRICT;

CREATE TABLE import_batch (
  id INTEGER PRIMARY KEY,
  feed TEXT NOT NULL REFERENCES feed (key),
  file TEXT NOT NULL,
  type TEXT,
  received_at INTEGER NOT NULL,
  received_by TEXT NOT NULL,
  rows_read INTEGER NOT NULL CHECK (rows_read >= 0),
  rows_taken INTEGER NOT NULL CHECK (rows_taken >= 0),
  rows_unchanged INTEGER NOT NULL CHECK (rows_unchanged >= 0),
  rows_rejected INTEGER NOT NULL CHECK (rows_rejected >= 0),
  CHECK (rows_read = rows_taken + rows_unchanged + rows_rejected)
) STRICT;
CREATE INDEX import_batch_by_feed ON import_batch (feed, received_at);

CREATE TABLE import_rejection (
  batch INTEGER NOT NULL REFERENCES import_batch (id),
  line INTEGER NOT NULL,
  field TEXT,
  value TEXT,
  reason TEXT NOT NULL
) STRICT;
CREATE INDEX import_rejection_by_batch ON import_rejection (batch);

CREATE TABLE store (
  feed TEXT NOT NULL, recorded_at INTEGER NOT NULL, replaced_at INTEGER CHECK (replaced_at >= recorded_at),
  key TEXT NOT NULL, name TEXT NOT NULL, site TEXT, region TEXT, medium TEXT NOT NULL,
  failure_domain TEXT, online INTEGER CHECK (online IN (0, 1)), can_lock INTEGER CHECK (can_lock IN (0, 1)),
  redundancy TEXT, throughput INTEGER CHECK (throughput > 0), path TEXT
) STRICT;
CREATE UNIQUE INDEX store_current ON store (key) WHERE replaced_at IS NULL;

CREATE TABLE policy (
  feed TEXT NOT NULL, recorded_at INTEGER NOT NULL, replaced_at INTEGER CHECK (replaced_at >= recorded_at),
  key TEXT NOT NULL, name TEXT NOT NULL, scope TEXT NOT NULL, interval_ms INTEGER CHECK (interval_ms > 0),
  keep_last INTEGER CHECK (keep_last >= 0), keep_for_ms INTEGER CHECK (keep_for_ms >= 0), copy_to TEXT
) STRICT;
CREATE UNIQUE INDEX policy_current ON policy (key) WHERE replaced_at IS NULL;

CREATE TABLE workload (
  feed TEXT NOT NULL, recorded_at INTEGER NOT NULL, replaced_at INTEGER CHECK (replaced_at >= recorded_at),
  key TEXT NOT NULL, name TEXT NOT NULL, owner TEXT, tier INTEGER CHECK (tier BETWEEN 1 AND 4), needs TEXT,
  rpo_ms INTEGER CHECK (rpo_ms >= 0), rto_ms INTEGER CHECK (rto_ms >= 0), rung TEXT, data_class TEXT,
  description TEXT
) STRICT;
CREATE UNIQUE INDEX workload_current ON workload (key) WHERE replaced_at IS NULL;

CREATE TABLE resource (
  feed TEXT NOT NULL, recorded_at INTEGER NOT NULL, replaced_at INTEGER CHECK (replaced_at >= recorded_at),
  key TEXT NOT NULL, name TEXT NOT NULL, kind TEXT NOT NULL, workload TEXT, parent TEXT, needs TEXT,
  site TEXT, region TEXT, environment TEXT, size_bytes INTEGER CHECK (size_bytes >= 0),
  daily_change_bytes INTEGER CHECK (daily_change_bytes >= 0), first_seen INTEGER, last_seen INTEGER,
  agent_seen INTEGER, tags TEXT, important_paths TEXT, CHECK (last_seen >= first_seen)
) STRICT;
CREATE UNIQUE INDEX resource_current ON resource (key) WHERE replaced_at IS NULL;

CREATE TABLE recovery_point (
  feed TEXT NOT NULL, recorded_at INTEGER NOT NULL, replaced_at INTEGER CHECK (replaced_at >= recorded_at),
  key TEXT NOT NULL, resource TEXT NOT NULL, policy TEXT, form TEXT NOT NULL, based_on TEXT,
  data_time INTEGER NOT NULL, available INTEGER, outcome TEXT NOT NULL, consistency TEXT NOT NULL,
  size_bytes INTEGER CHECK (size_bytes >= 0), encrypted INTEGER CHECK (encrypted IN (0, 1)),
  CHECK (available >= data_time), CHECK (based_on <> key)
) STRICT;
CREATE UNIQUE INDEX recovery_point_current ON recovery_point (key) WHERE replaced_at IS NULL;

CREATE TABLE copy (
  feed TEXT NOT NULL, recorded_at INTEGER NOT NULL, replaced_at INTEGER CHECK (replaced_at >= recorded_at),
  point TEXT NOT NULL, store TEXT NOT NULL, finished INTEGER, state TEXT NOT NULL, locked_until INTEGER,
  expires INTEGER, format TEXT, place TEXT, sha256 TEXT, manifest TEXT, last_read INTEGER,
  last_read_passed INTEGER CHECK (last_read_passed IN (0, 1))
) STRICT;
CREATE UNIQUE INDEX copy_current ON copy (point, store) WHERE replaced_at IS NULL;

CREATE TABLE exception (
  feed TEXT NOT NULL, recorded_at INTEGER NOT NULL, replaced_at INTEGER CHECK (replaced_at >= recorded_at),
  key TEXT NOT NULL, scope TEXT NOT NULL, criterion TEXT, reason TEXT NOT NULL, proposed_by TEXT,
  approved_by TEXT, from_time INTEGER, until_time INTEGER, CHECK (until_time > from_time),
  CHECK (approved_by <> proposed_by)
) STRICT;
CREATE UNIQUE INDEX exception_current ON exception (key) WHERE replaced_at IS NULL;

CREATE TABLE sql_check (
  resource TEXT NOT NULL, number INTEGER NOT NULL, query TEXT NOT NULL, operator TEXT NOT NULL,
  expected TEXT NOT NULL, PRIMARY KEY (resource, number)
) STRICT;

CREATE TABLE programme (
  key TEXT PRIMARY KEY, name TEXT NOT NULL, scope TEXT NOT NULL, rule TEXT NOT NULL, zone TEXT NOT NULL,
  begins_at INTEGER NOT NULL, start_window_ms INTEGER NOT NULL CHECK (start_window_ms >= 0),
  method TEXT, handled_until INTEGER NOT NULL
) STRICT;

CREATE TABLE programme_start (
  programme TEXT NOT NULL, due_at INTEGER NOT NULL, started INTEGER NOT NULL CHECK (started IN (0, 1)),
  runs INTEGER NOT NULL, reason TEXT NOT NULL, PRIMARY KEY (programme, due_at)
) STRICT;

CREATE TABLE drill_run (
  id TEXT PRIMARY KEY, resource TEXT NOT NULL, point TEXT NOT NULL, store TEXT NOT NULL,
  method TEXT NOT NULL, checks_asked TEXT NOT NULL, programme TEXT, requested_by TEXT NOT NULL,
  reason TEXT NOT NULL, queued_at INTEGER NOT NULL, started_at INTEGER, ended_at INTEGER,
  restore TEXT NOT NULL, checks TEXT NOT NULL, cleanup TEXT NOT NULL,
  hold_ms INTEGER NOT NULL CHECK (hold_ms >= 0), hold_until INTEGER,
  reaches TEXT NOT NULL, bytes INTEGER NOT NULL DEFAULT 0, reading_ms INTEGER,
  blamed_point TEXT, blamed_store TEXT, sentence TEXT NOT NULL DEFAULT '',
  cancel_asked INTEGER NOT NULL DEFAULT 0 CHECK (cancel_asked IN (0, 1)),
  CHECK (ended_at IS NULL OR restore NOT IN ('waiting', 'running'))
) STRICT;
CREATE INDEX drill_run_waiting ON drill_run (queued_at) WHERE ended_at IS NULL;
CREATE INDEX drill_run_by_end ON drill_run (ended_at);
CREATE INDEX drill_run_by_resource ON drill_run (resource, ended_at);

CREATE TABLE drill_step (
  run TEXT NOT NULL REFERENCES drill_run (id), number INTEGER NOT NULL, name TEXT NOT NULL,
  state TEXT NOT NULL, started_at INTEGER, ended_at INTEGER,
  done_bytes INTEGER NOT NULL DEFAULT 0, total_bytes INTEGER NOT NULL DEFAULT 0,
  message TEXT NOT NULL DEFAULT '', PRIMARY KEY (run, number)
) STRICT;

CREATE TABLE pack (
  id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE, title TEXT NOT NULL, scope TEXT NOT NULL,
  as_at INTEGER NOT NULL, made_at INTEGER NOT NULL, made_by TEXT NOT NULL, bytes INTEGER NOT NULL,
  sha256 TEXT NOT NULL, workloads INTEGER NOT NULL, proven INTEGER NOT NULL
) STRICT;

CREATE TABLE person (
  name TEXT PRIMARY KEY COLLATE NOCASE, full_name TEXT NOT NULL, role TEXT NOT NULL,
  password_hash TEXT NOT NULL, demo INTEGER NOT NULL CHECK (demo IN (0, 1))
) STRICT;
