-- The rest of the bundle's fields, jobs, standards, and what was found when.

ALTER TABLE store ADD COLUMN delete_approvals INTEGER CHECK (delete_approvals >= 0);

ALTER TABLE policy ADD COLUMN schedule TEXT;
ALTER TABLE policy ADD COLUMN zone TEXT;
UPDATE policy SET schedule = 'PT' || (interval_ms / 1000) || 'S' WHERE interval_ms IS NOT NULL;
ALTER TABLE policy DROP COLUMN interval_ms;
ALTER TABLE policy ADD COLUMN start_window_ms INTEGER CHECK (start_window_ms >= 0);
ALTER TABLE policy ADD COLUMN complete_within_ms INTEGER CHECK (complete_within_ms > 0);
ALTER TABLE policy ADD COLUMN keep_weekly INTEGER CHECK (keep_weekly >= 0);
ALTER TABLE policy ADD COLUMN keep_monthly INTEGER CHECK (keep_monthly >= 0);
ALTER TABLE policy ADD COLUMN keep_yearly INTEGER CHECK (keep_yearly >= 0);
ALTER TABLE policy ADD COLUMN consistency TEXT;
ALTER TABLE policy ADD COLUMN encrypted INTEGER CHECK (encrypted IN (0, 1));
ALTER TABLE policy ADD COLUMN read_back INTEGER CHECK (read_back IN (0, 1));
ALTER TABLE policy ADD COLUMN copy_window TEXT;
ALTER TABLE policy ADD COLUMN exclude TEXT;

ALTER TABLE resource ADD COLUMN missing_since INTEGER;

ALTER TABLE recovery_point ADD COLUMN started INTEGER;
ALTER TABLE recovery_point ADD COLUMN pre_step INTEGER CHECK (pre_step IN (0, 1));
ALTER TABLE recovery_point ADD COLUMN source_role TEXT;
ALTER TABLE recovery_point ADD COLUMN skipped_items INTEGER CHECK (skipped_items >= 0);

ALTER TABLE exception ADD COLUMN refused_by TEXT;

CREATE TABLE job (
  feed TEXT NOT NULL, recorded_at INTEGER NOT NULL, replaced_at INTEGER CHECK (replaced_at >= recorded_at),
  key TEXT NOT NULL, type TEXT NOT NULL, resource TEXT, policy TEXT, store TEXT, started INTEGER,
  ended INTEGER CHECK (ended >= started), outcome TEXT NOT NULL, bytes INTEGER CHECK (bytes >= 0), message TEXT
) STRICT;
CREATE UNIQUE INDEX job_current ON job (key) WHERE replaced_at IS NULL;

-- Files of the bundle of which a feed always brings all rows: what one leaves out is not seen any more.
ALTER TABLE feed ADD COLUMN full_listings TEXT NOT NULL DEFAULT '';

-- Resources that a person put under a policy here, besides what its own scope says.
CREATE TABLE policy_addition (
  policy TEXT NOT NULL, resource TEXT NOT NULL, added_by TEXT NOT NULL, reason TEXT NOT NULL,
  recorded_at INTEGER NOT NULL, replaced_at INTEGER CHECK (replaced_at >= recorded_at)
) STRICT;
CREATE UNIQUE INDEX policy_addition_current ON policy_addition (policy, resource) WHERE replaced_at IS NULL;

-- A version is never changed: a change is a new version.
CREATE TABLE standard (
  name TEXT NOT NULL COLLATE NOCASE, version INTEGER NOT NULL CHECK (version > 0), body TEXT NOT NULL,
  note TEXT NOT NULL, saved_at INTEGER NOT NULL, saved_by TEXT NOT NULL, PRIMARY KEY (name, version)
) STRICT;
-- Which standard holds from when on.
CREATE TABLE standard_in_force (
  id INTEGER PRIMARY KEY, name TEXT NOT NULL, version INTEGER NOT NULL, since INTEGER NOT NULL,
  chosen_by TEXT NOT NULL, FOREIGN KEY (name, version) REFERENCES standard (name, version)
) STRICT;

-- What was found when: a row for each time a finding opened, changed or closed.
CREATE TABLE finding_event (
  id INTEGER PRIMARY KEY, finding TEXT NOT NULL, at INTEGER NOT NULL,
  event TEXT NOT NULL CHECK (event IN ('opened', 'changed', 'closed')),
  excepted INTEGER NOT NULL CHECK (excepted IN (0, 1)), tier INTEGER, workload TEXT, sentence TEXT NOT NULL
) STRICT;
CREATE INDEX finding_event_by_finding ON finding_event (finding, id);
CREATE INDEX finding_event_by_time ON finding_event (at);
CREATE TABLE finding_look (
  finding TEXT NOT NULL, at INTEGER NOT NULL, by TEXT NOT NULL, note TEXT NOT NULL
) STRICT;
CREATE INDEX finding_look_by_finding ON finding_look (finding, at);

CREATE TABLE verdict_event (
  id INTEGER PRIMARY KEY, workload TEXT NOT NULL, at INTEGER NOT NULL, verdict TEXT NOT NULL,
  sentence TEXT NOT NULL
) STRICT;
CREATE INDEX verdict_event_by_workload ON verdict_event (workload, id);

CREATE TABLE mapping (
  name TEXT PRIMARY KEY COLLATE NOCASE, file TEXT NOT NULL, body TEXT NOT NULL, saved_at INTEGER NOT NULL,
  saved_by TEXT NOT NULL
) STRICT;
