-- Points and copies of each resource once more, packed by columns, because row by row they take a hundred times
-- as long to read. The rows are the truth: this is made from them and can be thrown away at any time.
CREATE TABLE packed_points (resource TEXT PRIMARY KEY, body BLOB NOT NULL) STRICT;
-- Up to and with which rows they are packed.
CREATE TABLE packed_upto (
  id INTEGER PRIMARY KEY CHECK (id = 1), point_row INTEGER NOT NULL, copy_row INTEGER NOT NULL
) STRICT;
INSERT INTO packed_upto VALUES (1, 0, 0);
-- A point that was told of another resource before belongs into the packed points of both.
CREATE INDEX recovery_point_past ON recovery_point (key) WHERE replaced_at IS NOT NULL;
