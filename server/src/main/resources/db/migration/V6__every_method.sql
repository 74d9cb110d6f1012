-- Checks of every kind, in place of queries alone.
CREATE TABLE drill_check (
  resource TEXT NOT NULL, number INTEGER NOT NULL, type TEXT NOT NULL, subject TEXT NOT NULL,
  expected TEXT NOT NULL, PRIMARY KEY (resource, number)
) STRICT;
INSERT INTO drill_check SELECT resource, number, 'query-' || operator, query, expected FROM sql_check;
DROP TABLE sql_check;
UPDATE drill_run SET checks_asked = (
  SELECT json_group_array(json_object(
    'type', 'query-' || lower(replace(json_extract(value, '$.operator'), '_', '-')),
    'subject', json_extract(value, '$.query'), 'expected', json_extract(value, '$.expected')))
  FROM json_each(checks_asked));

ALTER TABLE drill_run ADD COLUMN options TEXT NOT NULL DEFAULT '{}';
-- Whose word an ended restore waits for, until when, and when the work itself was over.
ALTER TABLE drill_run ADD COLUMN awaits TEXT;
ALTER TABLE drill_run ADD COLUMN await_until INTEGER;
ALTER TABLE drill_run ADD COLUMN worked_until INTEGER;
-- The newest time that was found in the data.
ALTER TABLE drill_run ADD COLUMN newest_data INTEGER;

-- What machines showed; number -1 is what one shows now.
CREATE TABLE run_screen (
  run TEXT NOT NULL REFERENCES drill_run (id), number INTEGER NOT NULL, at_ms INTEGER NOT NULL,
  screen_class TEXT, engine TEXT, lines TEXT, png BLOB, PRIMARY KEY (run, number)
) STRICT;
CREATE TABLE accepted_screen (
  id INTEGER PRIMARY KEY, resource TEXT NOT NULL, run TEXT NOT NULL, accepted_by TEXT NOT NULL,
  accepted_at INTEGER NOT NULL, reason TEXT NOT NULL, lines TEXT, png BLOB
) STRICT;
CREATE INDEX accepted_screen_by_resource ON accepted_screen (resource);

-- Questions to somebody outside. Tokens are kept as their SHA-256 only.
CREATE TABLE outside_check (
  token_sha256 TEXT PRIMARY KEY, run TEXT NOT NULL REFERENCES drill_run (id), number INTEGER NOT NULL,
  address TEXT NOT NULL, asked_at INTEGER NOT NULL, until INTEGER NOT NULL, delivered INTEGER,
  answered_at INTEGER, passed INTEGER CHECK (passed IN (0, 1)), message TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX outside_check_by_run ON outside_check (run);

-- What was read for the first time of artifacts that came without a checksum.
CREATE TABLE baseline (
  point TEXT NOT NULL, store TEXT NOT NULL, place TEXT NOT NULL, seen_at INTEGER NOT NULL, run TEXT NOT NULL,
  blocks TEXT NOT NULL, PRIMARY KEY (point, store)
) STRICT;

-- Sweeps over a store, the artifacts each has to read, and what came of reading them.
CREATE TABLE sweep (
  id INTEGER PRIMARY KEY, store TEXT NOT NULL, state TEXT NOT NULL, requested_by TEXT NOT NULL,
  reason TEXT NOT NULL, bytes_per_second INTEGER CHECK (bytes_per_second > 0), planned_at INTEGER NOT NULL,
  ended_at INTEGER, worked_ms INTEGER NOT NULL DEFAULT 0, sentence TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE UNIQUE INDEX sweep_one_at_a_time ON sweep (store) WHERE ended_at IS NULL;
CREATE TABLE sweep_item (
  sweep INTEGER NOT NULL REFERENCES sweep (id), number INTEGER NOT NULL, resource TEXT NOT NULL,
  point TEXT NOT NULL, size_bytes INTEGER NOT NULL, state TEXT NOT NULL, PRIMARY KEY (sweep, number)
) STRICT;
CREATE TABLE read_back (
  id INTEGER PRIMARY KEY, sweep INTEGER NOT NULL REFERENCES sweep (id), resource TEXT NOT NULL,
  point TEXT NOT NULL, store TEXT NOT NULL, started_at INTEGER NOT NULL, ended_at INTEGER NOT NULL,
  restore TEXT NOT NULL, checks TEXT NOT NULL, reaches TEXT NOT NULL, bytes INTEGER NOT NULL,
  sentence TEXT NOT NULL
) STRICT;
CREATE INDEX read_back_by_end ON read_back (ended_at);
CREATE INDEX read_back_by_copy ON read_back (store, point, ended_at);

-- Files that people took out of restored data.
CREATE TABLE file_taken (
  id INTEGER PRIMARY KEY, run TEXT NOT NULL REFERENCES drill_run (id), path TEXT NOT NULL,
  taken_by TEXT NOT NULL, taken_at INTEGER NOT NULL, bytes INTEGER NOT NULL, sha256 TEXT NOT NULL
) STRICT;

-- Searches for the newest point that passes.
CREATE TABLE point_search (
  id INTEGER PRIMARY KEY, resource TEXT NOT NULL, store TEXT, method TEXT NOT NULL, checks_asked TEXT NOT NULL,
  requested_by TEXT NOT NULL, reason TEXT NOT NULL, started_at INTEGER NOT NULL, ended_at INTEGER,
  cancel_asked INTEGER NOT NULL DEFAULT 0, run TEXT, good_point TEXT, sentence TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE TABLE point_search_step (
  search INTEGER NOT NULL REFERENCES point_search (id), number INTEGER NOT NULL, point TEXT NOT NULL,
  run TEXT NOT NULL, passed INTEGER, PRIMARY KEY (search, number)
) STRICT;
