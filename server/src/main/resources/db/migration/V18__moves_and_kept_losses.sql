-- That a resource belongs where it is: what it left is not gone back to.
CREATE TABLE settled_move (
  resource TEXT NOT NULL, settled_at INTEGER NOT NULL, settled_by TEXT NOT NULL, reason TEXT NOT NULL,
  PRIMARY KEY (resource, settled_at)
) STRICT, WITHOUT ROWID;
-- Losses that people gave a name.
CREATE TABLE kept_loss (
  name TEXT PRIMARY KEY, lost TEXT NOT NULL, kept_by TEXT NOT NULL, kept_at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;
