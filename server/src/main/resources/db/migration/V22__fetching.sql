-- Feeds that are fetched from an address, and tokens by which others deliver.
CREATE TABLE feed_fetch (
  feed TEXT PRIMARY KEY, address TEXT NOT NULL, way TEXT NOT NULL, user TEXT, secret BLOB, every_ms INTEGER NOT NULL,
  recipe TEXT, file TEXT, kept_at INTEGER NOT NULL, kept_by TEXT NOT NULL, etag TEXT, asked_at INTEGER, failed INTEGER,
  said TEXT
) STRICT, WITHOUT ROWID;

CREATE TABLE delivery_token (
  feed TEXT PRIMARY KEY, digest TEXT NOT NULL, made_at INTEGER NOT NULL, made_by TEXT NOT NULL, used_at INTEGER
) STRICT, WITHOUT ROWID;
