-- Beside what was first read of an artifact, the links that were first restored from it may be kept.
CREATE TABLE baseline_by_place (
  point TEXT NOT NULL, store TEXT NOT NULL, place TEXT NOT NULL, seen_at INTEGER NOT NULL, run TEXT NOT NULL,
  blocks TEXT NOT NULL, PRIMARY KEY (point, store, place)
) STRICT;
INSERT INTO baseline_by_place SELECT point, store, place, seen_at, run, blocks FROM baseline;
DROP TABLE baseline;
ALTER TABLE baseline_by_place RENAME TO baseline;
