-- What is said of a feed has a history like every other fact: what is said today changes no past evaluation.
CREATE TABLE feed_setting (
  feed TEXT NOT NULL REFERENCES feed (key), expected_every_ms INTEGER CHECK (expected_every_ms > 0),
  full_listings TEXT NOT NULL DEFAULT '', recorded_at INTEGER NOT NULL,
  replaced_at INTEGER CHECK (replaced_at >= recorded_at), set_by TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX feed_setting_current ON feed_setting (feed) WHERE replaced_at IS NULL;
-- What was said before nobody had written down when: it holds from the first delivery on, as it did.
INSERT INTO feed_setting (feed, expected_every_ms, full_listings, recorded_at, set_by)
SELECT key, expected_every_ms, full_listings,
       coalesce((SELECT min(received_at) FROM import_batch WHERE feed = feed.key), 0), ''
  FROM feed;
ALTER TABLE feed DROP COLUMN expected_every_ms;
ALTER TABLE feed DROP COLUMN full_listings;

-- When the clean-up of a run came to what: an evaluation as at an instant sees it as it was then.
CREATE TABLE cleanup_change (
  run TEXT NOT NULL REFERENCES drill_run (id), at INTEGER NOT NULL, state TEXT NOT NULL
) STRICT;
CREATE INDEX cleanup_change_by_run ON cleanup_change (run, at);

-- Who changed what, and when; what was before and after where that is short.
CREATE TABLE activity (
  id INTEGER PRIMARY KEY, at INTEGER NOT NULL, by TEXT NOT NULL, what TEXT NOT NULL, subject TEXT NOT NULL,
  detail TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX activity_by_time ON activity (at);
CREATE TRIGGER activity_is_never_changed BEFORE UPDATE ON activity
BEGIN SELECT RAISE(ABORT, 'what was done is not changed'); END;
CREATE TRIGGER activity_is_never_removed BEFORE DELETE ON activity
BEGIN SELECT RAISE(ABORT, 'what was done is not removed'); END;

-- Somebody who has ended stays known by name; nobody else can have it.
ALTER TABLE person ADD COLUMN ended_at INTEGER;
-- A link that sets a password works once; only its SHA-256 is kept.
CREATE TABLE password_link (
  token_sha256 TEXT PRIMARY KEY, person TEXT NOT NULL COLLATE NOCASE REFERENCES person (name),
  made_by TEXT NOT NULL, made_at INTEGER NOT NULL, until INTEGER NOT NULL, used_at INTEGER
) STRICT;
CREATE INDEX password_link_by_person ON password_link (person);

-- Hosts that outside checks may be sent to.
CREATE TABLE outside_host (host TEXT PRIMARY KEY, allowed_by TEXT NOT NULL, allowed_at INTEGER NOT NULL) STRICT;
