-- How a store is reached from here, where it is no folder. What opens it is sealed by a key that lies outside of this file.
CREATE TABLE store_connection (
  store TEXT PRIMARY KEY, kind TEXT NOT NULL CHECK (kind IN ('object-store', 'sftp')), settings TEXT NOT NULL,
  secret BLOB NOT NULL, bytes_per_second INTEGER CHECK (bytes_per_second >= 1000),
  changed_at INTEGER NOT NULL, changed_by TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- Lists of stores, and what comparing them with what is claimed came to.
CREATE TABLE census (
  id INTEGER PRIMARY KEY, store TEXT NOT NULL, asked_by TEXT NOT NULL, started_at INTEGER NOT NULL, ended_at INTEGER,
  state TEXT NOT NULL CHECK (state IN ('running', 'done', 'failed', 'interrupted', 'cancelled')),
  listed INTEGER NOT NULL DEFAULT 0, listed_bytes INTEGER NOT NULL DEFAULT 0, older_bytes INTEGER NOT NULL DEFAULT 0,
  claimed INTEGER NOT NULL DEFAULT 0, there INTEGER NOT NULL DEFAULT 0, gone INTEGER NOT NULL DEFAULT 0,
  other_size INTEGER NOT NULL DEFAULT 0, other_sum INTEGER NOT NULL DEFAULT 0, newer INTEGER NOT NULL DEFAULT 0, shorter_lock INTEGER NOT NULL DEFAULT 0,
  no_place INTEGER NOT NULL DEFAULT 0, locks_asked INTEGER NOT NULL DEFAULT 0, locks_known INTEGER NOT NULL DEFAULT 0,
  untold INTEGER NOT NULL DEFAULT 0, untold_bytes INTEGER NOT NULL DEFAULT 0, clock_ahead_ms INTEGER,
  sentence TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX census_by_store ON census (store, id);
-- Of each copy that is not as it is claimed a row when that is found and one when it is over; and of each resource on a
-- store the newest point of which everything is there.
CREATE TABLE census_fact (
  id INTEGER PRIMARY KEY, census INTEGER NOT NULL REFERENCES census (id), resource TEXT NOT NULL, point TEXT NOT NULL,
  store TEXT NOT NULL, at INTEGER NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('held', 'there', 'gone', 'other-size', 'other-sum', 'newer', 'shorter-lock')),
  sentence TEXT NOT NULL
) STRICT;
CREATE INDEX census_fact_by_copy ON census_fact (store, point, id);
CREATE INDEX census_fact_of_census ON census_fact (census, id);
-- What lies on a store and no feed tells of: as the newest census found it, the largest first; the census counts all.
CREATE TABLE census_untold (
  store TEXT NOT NULL, number INTEGER NOT NULL, place TEXT NOT NULL, size INTEGER NOT NULL, modified_at INTEGER NOT NULL,
  PRIMARY KEY (store, number)
) STRICT, WITHOUT ROWID;

CREATE TRIGGER census_is_due AFTER UPDATE OF ended_at ON census
WHEN OLD.ended_at IS NULL AND NEW.ended_at IS NOT NULL
BEGIN INSERT INTO ledger_due (kind, key) VALUES ('census', NEW.id); END;
CREATE TRIGGER census_fact_is_due AFTER INSERT ON census_fact WHEN NEW.state <> 'held'
BEGIN INSERT INTO ledger_due (kind, key) VALUES ('census-fact', NEW.id); END;
