-- How long a store keeps a copy from change, where it says so itself and otherwise than is claimed. A check of a column
-- can't be changed, so the table is made again.
DROP TRIGGER census_fact_is_due;
CREATE TABLE census_fact_now (
  id INTEGER PRIMARY KEY, census INTEGER NOT NULL REFERENCES census (id), resource TEXT NOT NULL, point TEXT NOT NULL,
  store TEXT NOT NULL, at INTEGER NOT NULL,
  state TEXT NOT NULL CHECK (state IN
    ('held', 'there', 'gone', 'other-size', 'other-sum', 'newer', 'shorter-lock', 'longer-lock')),
  locked_until INTEGER, sentence TEXT NOT NULL
) STRICT;
INSERT INTO census_fact_now SELECT id, census, resource, point, store, at, state, NULL, sentence FROM census_fact;
DROP TABLE census_fact;
ALTER TABLE census_fact_now RENAME TO census_fact;
CREATE INDEX census_fact_by_copy ON census_fact (store, point, id);
CREATE INDEX census_fact_of_census ON census_fact (census, id);
CREATE TRIGGER census_fact_is_due AFTER INSERT ON census_fact WHEN NEW.state <> 'held'
BEGIN INSERT INTO ledger_due (kind, key) VALUES ('census-fact', NEW.id); END;
