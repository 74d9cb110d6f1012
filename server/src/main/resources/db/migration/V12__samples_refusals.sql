-- So many points of all were drawn at a start; NULL where one of each resource was.
ALTER TABLE programme_draw ADD COLUMN sample INTEGER;

-- What a programme could not drill when it tried last, and why. What is foretold counts on none of it.
CREATE TABLE refused_drill (
  programme TEXT NOT NULL, resource TEXT NOT NULL, due_at INTEGER NOT NULL, reason TEXT NOT NULL,
  PRIMARY KEY (programme, resource)
) STRICT, WITHOUT ROWID;

-- Until when a night goes on, by what was planned when it was foretold; NULL where that was not kept.
ALTER TABLE foretold_night ADD COLUMN until_at INTEGER;
