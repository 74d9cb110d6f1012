-- What somebody was told of: opened once, closed by itself, acknowledged by a person.
CREATE TABLE alert (
  id INTEGER PRIMARY KEY, kind TEXT NOT NULL, subject TEXT NOT NULL, name TEXT NOT NULL, workload TEXT, tier INTEGER,
  sentence TEXT NOT NULL, counted INTEGER NOT NULL, opened_at INTEGER NOT NULL, closed_at INTEGER,
  acknowledged_at INTEGER, acknowledged_by TEXT, note TEXT
) STRICT;
CREATE UNIQUE INDEX alert_open_once ON alert (kind, subject) WHERE closed_at IS NULL;
CREATE INDEX alert_by_closing ON alert (closed_at);
CREATE TABLE alert_event (
  id INTEGER PRIMARY KEY, alert INTEGER NOT NULL REFERENCES alert, at INTEGER NOT NULL, event TEXT NOT NULL, by TEXT,
  text TEXT NOT NULL
) STRICT;
CREATE INDEX alert_event_by_alert ON alert_event (alert);
-- Who is told of what, and how. No number is used again: messages stay when their watch is gone.
CREATE TABLE watch (
  id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL, kinds TEXT NOT NULL, selector TEXT NOT NULL, how TEXT NOT NULL,
  recipient TEXT NOT NULL, after_ms INTEGER NOT NULL, repeat_ms INTEGER, quiet_from TEXT, quiet_until TEXT,
  zone TEXT NOT NULL, active INTEGER NOT NULL, changed_by TEXT NOT NULL, changed_at INTEGER NOT NULL
) STRICT;
INSERT INTO watch (name, kinds, selector, how, recipient, after_ms, zone, active, changed_by, changed_at)
VALUES ('Everything, on the bell of everybody', '', '{}', 'bell', 'everybody', 0, 'UTC', 1, 'Hard Proof', 0);
-- Every message, with what became of it.
CREATE TABLE message (
  id INTEGER PRIMARY KEY, watch INTEGER NOT NULL, alert INTEGER NOT NULL REFERENCES alert, what TEXT NOT NULL,
  how TEXT NOT NULL, recipient TEXT NOT NULL, subject TEXT NOT NULL, body TEXT NOT NULL, made_at INTEGER NOT NULL,
  state TEXT NOT NULL, tries INTEGER NOT NULL DEFAULT 0, next_at INTEGER, ended_at INTEGER, problem TEXT
) STRICT;
CREATE INDEX message_by_alert ON message (alert, watch);
CREATE INDEX message_waiting ON message (next_at) WHERE state = 'waiting';
