-- Which point and which copy a programme drills. Those that are here go on as they did: the newest, from any copy.
ALTER TABLE programme ADD COLUMN point_choice TEXT NOT NULL DEFAULT 'newest';
ALTER TABLE programme ADD COLUMN within_ms INTEGER CHECK (within_ms > 0);
ALTER TABLE programme ADD COLUMN copy_choice TEXT NOT NULL DEFAULT 'any';
ALTER TABLE programme ADD COLUMN store TEXT;

-- What was drawn at a start, so that anybody can draw it again: the candidates a line each, compressed by gzip.
CREATE TABLE programme_draw (
  programme TEXT NOT NULL, due_at INTEGER NOT NULL, known TEXT NOT NULL, seed TEXT NOT NULL, digest TEXT NOT NULL,
  candidates BLOB NOT NULL, PRIMARY KEY (programme, due_at)
) STRICT;

-- The runs of a draw. Only these say something of the points that were not drawn.
CREATE TABLE drawn_run (
  run TEXT PRIMARY KEY, programme TEXT NOT NULL, due_at INTEGER NOT NULL,
  FOREIGN KEY (programme, due_at) REFERENCES programme_draw (programme, due_at)
) STRICT;
