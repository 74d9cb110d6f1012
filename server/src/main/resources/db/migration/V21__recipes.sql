-- How somebody else's reports become facts: several kinds of rows of one report, where a mapping gave one.
CREATE TABLE recipe (
  name TEXT PRIMARY KEY COLLATE NOCASE, body TEXT NOT NULL, kept_at INTEGER NOT NULL, kept_by TEXT NOT NULL
) STRICT;

INSERT INTO recipe
SELECT m.name,
  json_object(
    'name', m.name,
    'zone', json_extract(m.body, '$.zone'),
    'timePattern', json_extract(m.body, '$.time_pattern'),
    'outputs', json_array(json_object(
      'file', m.file,
      'once', json('false'),
      'fields', json((
        SELECT json_group_object(f.key, json(json_patch('{}', json_object(
          'column', (SELECT value FROM json_each(m.body, '$.columns') WHERE key = f.key),
          'otherwise', (SELECT value FROM json_each(m.body, '$.constants') WHERE key = f.key),
          'unit', (SELECT value FROM json_each(m.body, '$.units') WHERE key = f.key),
          'meanings', json((SELECT value FROM json_each(m.body, '$.values') WHERE key = f.key))))))
        FROM (SELECT key FROM json_each(m.body, '$.columns')
          UNION SELECT key FROM json_each(m.body, '$.constants')) f))))),
  m.saved_at, m.saved_by
FROM mapping m;

DROP TABLE mapping;
