-- What a programme says, as it stood at any instant. The body is JSON: read and written as a whole, by one class.
CREATE TABLE programme_version (
  key TEXT NOT NULL, recorded_at INTEGER NOT NULL, replaced_at INTEGER, changed_by TEXT NOT NULL, body TEXT NOT NULL,
  PRIMARY KEY (key, recorded_at), CHECK (replaced_at IS NULL OR replaced_at >= recorded_at)
) STRICT;
CREATE UNIQUE INDEX programme_in_force ON programme_version (key) WHERE replaced_at IS NULL;

-- Those that are here go on as they did.
INSERT INTO programme_version
SELECT key, begins_at, NULL, '', json_object(
         'name', name, 'scope', json(scope), 'rule', rule, 'zone', zone, 'begins_ms', begins_at,
         'start_window_ms', start_window_ms, 'showing', CASE WHEN method IS NULL THEN 'strongest' ELSE 'method' END,
         'method', method, 'point', point_choice, 'within_ms', within_ms, 'copy', copy_choice, 'store', store)
  FROM programme;

-- Up to when the due starts of a programme have been handled.
CREATE TABLE programme_handled (key TEXT PRIMARY KEY, until INTEGER NOT NULL) STRICT;
INSERT INTO programme_handled SELECT key, handled_until FROM programme;
DROP TABLE programme;

-- What there is to drill with, as it stood at any instant.
CREATE TABLE drill_capacity (recorded_at INTEGER PRIMARY KEY, changed_by TEXT NOT NULL, body TEXT NOT NULL) STRICT;

-- What a run that waits will take, until when it may begin, and which try it is.
ALTER TABLE drill_run ADD COLUMN needed_by INTEGER;
ALTER TABLE drill_run ADD COLUMN not_after INTEGER;
ALTER TABLE drill_run ADD COLUMN takes_ms INTEGER;
ALTER TABLE drill_run ADD COLUMN read_bytes INTEGER NOT NULL DEFAULT 0;
ALTER TABLE drill_run ADD COLUMN space_bytes INTEGER NOT NULL DEFAULT 0;
ALTER TABLE drill_run ADD COLUMN cost REAL NOT NULL DEFAULT 0;
ALTER TABLE drill_run ADD COLUMN attempt INTEGER NOT NULL DEFAULT 1;
CREATE INDEX drill_run_by_programme ON drill_run (programme, started_at) WHERE programme IS NOT NULL;

-- What was foretold of a night when it began: the resources whose drills would begin in it, a line each.
CREATE TABLE foretold_night (opens_at INTEGER PRIMARY KEY, made_at INTEGER NOT NULL, resources TEXT NOT NULL) STRICT;

-- Addresses of people's calendars. Tokens are kept as their SHA-256 only; a person has one at the most.
CREATE TABLE calendar_token (
  token_sha256 TEXT PRIMARY KEY, person TEXT NOT NULL UNIQUE COLLATE NOCASE, made_at INTEGER NOT NULL
) STRICT;
