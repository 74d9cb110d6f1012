-- What is handed out on a schedule. No number is used again: what was issued stays when its report is gone.
CREATE TABLE report (
  id INTEGER PRIMARY KEY AUTOINCREMENT, title TEXT NOT NULL, kind TEXT NOT NULL, selector TEXT NOT NULL, period_ms INTEGER,
  formats TEXT NOT NULL, rule TEXT NOT NULL, zone TEXT NOT NULL, starts_at INTEGER NOT NULL, deliveries TEXT NOT NULL,
  active INTEGER NOT NULL, changed_by TEXT NOT NULL, changed_at INTEGER NOT NULL
) STRICT;
-- What was issued; where it could not be, the problem.
CREATE TABLE issued_report (
  id INTEGER PRIMARY KEY, report INTEGER, title TEXT NOT NULL, kind TEXT NOT NULL, scope TEXT NOT NULL, from_at INTEGER,
  as_at INTEGER NOT NULL, until_at INTEGER, due_at INTEGER, made_at INTEGER NOT NULL, made_by TEXT NOT NULL,
  folder TEXT NOT NULL, words TEXT NOT NULL, pack INTEGER REFERENCES pack, problem TEXT
) STRICT;
CREATE UNIQUE INDEX issued_report_once ON issued_report (report, due_at) WHERE due_at IS NOT NULL;
CREATE TABLE issued_file (
  issued INTEGER NOT NULL REFERENCES issued_report, name TEXT NOT NULL, media_type TEXT NOT NULL, bytes INTEGER NOT NULL,
  sha256 TEXT NOT NULL, PRIMARY KEY (issued, name)
) STRICT, WITHOUT ROWID;
-- To whom it goes, with what became of it.
CREATE TABLE report_delivery (
  id INTEGER PRIMARY KEY, issued INTEGER NOT NULL REFERENCES issued_report, how TEXT NOT NULL, recipient TEXT NOT NULL,
  state TEXT NOT NULL, tries INTEGER NOT NULL DEFAULT 0, next_at INTEGER, ended_at INTEGER, problem TEXT
) STRICT;
CREATE INDEX report_delivery_by_issued ON report_delivery (issued);
CREATE INDEX report_delivery_waiting ON report_delivery (next_at) WHERE state = 'waiting';
