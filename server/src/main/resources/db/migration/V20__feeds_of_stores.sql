-- Feeds that are made of what lies on a store, by how its files are named.
CREATE TABLE store_feed (
  store TEXT PRIMARY KEY, feed TEXT NOT NULL, body TEXT NOT NULL, kept_at INTEGER NOT NULL, kept_by TEXT NOT NULL
) STRICT, WITHOUT ROWID;
