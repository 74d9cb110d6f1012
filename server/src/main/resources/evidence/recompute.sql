-- Computes figures of this pack again from data/facts.sqlite, in nothing but SQL, and compares them with data/findings.csv.
-- In the folder of the pack, with the sqlite3 command (3.32 or newer); nothing is written:
--
--     sqlite3 -readonly data/facts.sqlite < proof/recompute.sql
--
-- Every figure that differs is a line; the last lines say how many were compared. Times are epoch milliseconds.
-- What is meant by each is in the words of docs/criteria.md; here it is written a second time, by other means.
.bail on
.mode list
.headers off
.import --csv --schema temp data/findings.csv finding

-- Which drill showed a point (blamed_store null) or its copy on a store to be bad, unless a later one took it back:
-- the first that failed since it was last read whole.
CREATE TEMP TABLE blame AS
WITH RECURSIVE
  blamed AS (
    SELECT DISTINCT resource, blamed_point AS point, blamed_store AS store FROM drill
     WHERE failed AND blamed_point IS NOT NULL),
  step AS (
    SELECT b.resource, b.point, b.store, d.ended, d.reaches, d.method, d.passed,
           d.failed AND d.blamed_point = b.point AND d.blamed_store IS b.store AS blames,
           d.point = b.point AND (b.store IS NULL OR d.store = b.store) AS same,
           row_number() OVER (PARTITION BY b.resource, b.point, b.store ORDER BY d.rowid) AS n
      FROM blamed b JOIN drill d ON d.resource = b.resource),
  walk AS (
    SELECT resource, point, store, 0 AS n, NULL AS since, NULL AS reached FROM blamed
    UNION ALL
    SELECT w.resource, w.point, w.store, s.n,
           CASE WHEN w.since IS NULL AND s.blames THEN s.ended
                WHEN w.since IS NOT NULL AND s.passed AND s.same
                     AND (s.method = 'read-back' AND w.store IS NOT NULL
                          OR s.reaches >= CASE WHEN w.store IS NULL THEN w.reached ELSE 2 END) THEN NULL
                ELSE w.since END,
           CASE WHEN w.since IS NULL AND s.blames THEN s.reaches ELSE w.reached END
      FROM walk w JOIN step s
        ON s.resource = w.resource AND s.point = w.point AND s.store IS w.store AND s.n = w.n + 1)
SELECT w.resource, w.point, w.store, w.since FROM walk w
 WHERE w.since IS NOT NULL
   AND w.n = (SELECT max(n) FROM step s
               WHERE s.resource = w.resource AND s.point = w.point AND s.store IS w.store);

-- Until when each copy could be read: 0 never, null without an end.
CREATE TEMP TABLE copy_until AS
SELECT p.resource, c.point, c.store, c.rowid AS place,
       CASE WHEN s.key IS NULL THEN 0
            WHEN b.since IS NOT NULL THEN b.since
            WHEN c.last_read_passed = 0 THEN coalesce(c.last_read, c.recorded_at)
            WHEN c.state = 'present' THEN NULL
            WHEN c.state = 'missing' AND c.finished IS NULL THEN 0
            WHEN c.state = 'deleted' AND c.expires < c.recorded_at THEN c.expires
            ELSE c.recorded_at END AS until,
       c.state = 'damaged' OR c.last_read_passed IS 0 OR b.since IS NOT NULL
         OR EXISTS (SELECT 1 FROM blame x
                     WHERE x.resource = p.resource AND x.point = c.point AND x.store IS NULL) AS in_error
  FROM copy c JOIN recovery_point p ON p.key = c.point
  LEFT JOIN store s ON s.key = c.store
  LEFT JOIN blame b ON b.resource = p.resource AND b.point = c.point AND b.store = c.store;
CREATE INDEX temp.copy_until_of ON copy_until (resource, point);

-- What each point is worth by itself: from and until when it could be restored; none where until is 0.
CREATE TEMP TABLE worth AS
SELECT p.resource, p.key, p.based_on, p.stands_alone, p.data_time, p.consistency_rank, p.rowid AS row,
       coalesce(p.available, 0) AS since,
       CASE WHEN p.available IS NULL OR p.outcome <> 'complete' THEN 0
            WHEN c.n IS NULL THEN 0
            ELSE min(CASE WHEN c.open THEN 9e18 ELSE c.until END, coalesce(b.since, 9e18)) END AS until
  FROM recovery_point p
  LEFT JOIN (SELECT resource, point, count(*) AS n, max(until IS NULL) AS open, max(until) AS until
               FROM copy_until GROUP BY resource, point) c ON c.resource = p.resource AND c.point = p.key
  LEFT JOIN blame b ON b.resource = p.resource AND b.point = p.key AND b.store IS NULL;
CREATE INDEX temp.worth_on ON worth (resource, based_on);

-- The same with the chain it hangs from, from the full upwards; what hangs from nothing that stands alone is not there.
CREATE TEMP TABLE chain AS
WITH RECURSIVE c AS (
  SELECT resource, key, row, data_time, consistency_rank, since, until, 0 AS hangs FROM worth
   WHERE based_on IS NULL AND stands_alone
  UNION ALL
  SELECT w.resource, w.key, w.row, w.data_time, w.consistency_rank, max(c.since, w.since), min(c.until, w.until), 1
    FROM c JOIN worth w ON w.resource = c.resource AND w.based_on = c.key)
SELECT * FROM c;
CREATE INDEX temp.chain_of ON chain (resource, key);

-- The points that count for each resource: of what protects it, consistent enough.
CREATE TEMP TABLE usable AS
SELECT a.resource, c.key, c.row, c.data_time, c.since, c.until, c.hangs
  FROM asked a JOIN chain c ON c.resource = a.protector
 WHERE c.consistency_rank >= a.consistency_rank AND c.since < c.until;
CREATE INDEX temp.usable_of ON usable (resource, data_time DESC);

-- Exposure now; where nobody has told since and it is over the objective, as far as was told.
CREATE TEMP TABLE exposure AS
SELECT a.resource,
       CASE WHEN p.as_at - u.data_time > a.rpo AND a.told_until < p.as_at
            THEN a.told_until - u.data_time ELSE p.as_at - u.data_time END AS figure
  FROM pack p, asked a
  LEFT JOIN usable u ON u.resource = a.resource AND u.rowid = (
       SELECT rowid FROM usable x
        WHERE x.resource = a.resource AND x.since <= p.as_at AND p.as_at < x.until
        ORDER BY x.data_time DESC LIMIT 1);

-- Attainment: of the time that was told of, the share in which exposure was within the objective.
CREATE TEMP TABLE counted AS
SELECT a.resource, a.rpo, a.told_until AS ends,
       max(p.as_at - p.period, coalesce(r.first_seen,
           (SELECT min(available) FROM recovery_point x WHERE x.resource = a.protector), p.as_at)) AS begins
  FROM pack p, asked a JOIN resource r ON r.key = a.resource;
CREATE TEMP TABLE tooth AS
WITH edge AS (
  SELECT resource, begins AS at FROM counted WHERE begins < ends
  UNION SELECT u.resource, u.since FROM usable u JOIN counted c USING (resource) WHERE u.since > c.begins AND u.since < c.ends
  UNION SELECT u.resource, u.until FROM usable u JOIN counted c USING (resource) WHERE u.until > c.begins AND u.until < c.ends)
SELECT e.resource, e.at AS begins,
       coalesce(lead(e.at) OVER (PARTITION BY e.resource ORDER BY e.at), c.ends) AS ends, c.rpo,
       (SELECT max(u.data_time) FROM usable u WHERE u.resource = e.resource AND u.since <= e.at AND e.at < u.until) AS newest
  FROM edge e JOIN counted c USING (resource);
CREATE TEMP TABLE attainment AS
SELECT t.resource,
       sum(CASE WHEN newest IS NULL THEN 0 ELSE max(0, min(t.ends, newest + t.rpo) - t.begins) END) * 1.0
         / (c.ends - c.begins) AS figure
  FROM tooth t JOIN counted c USING (resource) GROUP BY t.resource;

-- Copies: separate failure domains that hold the points that are fresh enough and usable, and the data itself. A point
-- is held by no more than the point of its chain that is held by the fewest.
CREATE TEMP TABLE held AS
SELECT DISTINCT a.resource, u.point AS key, s.effective_failure_domain AS domain
  FROM pack p, asked a JOIN copy_until u ON u.resource = a.protector JOIN copy c ON c.rowid = u.place
  JOIN store s ON s.key = u.store
 WHERE NOT u.in_error AND (u.until IS NULL OR u.until > p.as_at) AND (c.finished IS NULL OR c.finished <= p.as_at)
   AND s.effective_failure_domain IS NOT a.failure_domain;
CREATE INDEX temp.held_of ON held (resource, key);
CREATE TEMP TABLE weakest AS
WITH RECURSIVE
  own AS (
    SELECT a.resource, c.key, c.row, 1 + (SELECT count(*) FROM held h WHERE h.resource = a.resource AND h.key = c.key) AS n
      FROM asked a JOIN chain c ON c.resource = a.protector),
  w AS (
    SELECT o.resource, o.key, o.row, o.n AS own, o.n AS least FROM own o JOIN asked a ON a.resource = o.resource
      JOIN worth x ON x.resource = a.protector AND x.key = o.key WHERE x.based_on IS NULL
    UNION ALL
    SELECT w.resource, o.key, o.row, o.n, min(w.least, o.n)
      FROM w JOIN asked a ON a.resource = w.resource JOIN worth x ON x.resource = a.protector AND x.based_on = w.key
      JOIN own o ON o.resource = w.resource AND o.key = x.key)
SELECT * FROM w;
CREATE INDEX temp.weakest_of ON weakest (resource, key);
CREATE TEMP TABLE fresh AS
SELECT u.resource, u.key, NOT u.hangs OR w.own = w.least AS whole, w.least
  FROM pack p, asked a JOIN usable u ON u.resource = a.resource JOIN weakest w ON w.resource = u.resource AND w.key = u.key
 WHERE u.since <= p.as_at AND p.as_at < u.until AND u.data_time >= p.as_at - a.copy_freshness;
CREATE TEMP TABLE copies AS
SELECT a.resource,
       max(1 + (SELECT count(DISTINCT h.domain) FROM fresh f JOIN held h ON h.resource = f.resource AND h.key = f.key
                 WHERE f.resource = a.resource AND f.whole),
           coalesce((SELECT max(least) FROM fresh f WHERE f.resource = a.resource AND NOT f.whole), 1)) AS figure
  FROM asked a;

-- Copy lag: of the copies that policies promise of points of the period, the one that is farthest past its deadline.
CREATE TEMP TABLE lag AS
SELECT a.resource, x.row, t.rowid AS target, t.deadline,
       (CASE WHEN x.finished <= p.as_at THEN x.finished ELSE p.as_at END) - x.available - t.deadline AS past
  FROM pack p, asked a JOIN copy_promised t ON t.resource = a.resource
  JOIN (SELECT q.resource, q.rowid AS row, q.available, s.store,
               (SELECT c.finished FROM copy c
                 WHERE c.point = q.key AND c.store = s.store AND c.finished IS NOT NULL
                   AND (c.state = 'present' OR c.state = 'deleted' AND c.expires IS NOT NULL AND c.recorded_at >= c.expires)
                 ORDER BY c.rowid LIMIT 1) AS finished
          FROM recovery_point q, pack k, (SELECT DISTINCT store FROM copy_promised) s
         WHERE q.available BETWEEN k.as_at - k.period AND k.as_at AND q.outcome <> 'failed') x
    ON x.resource = a.protector AND x.store = t.store;
CREATE TEMP TABLE copy_lag AS
SELECT resource, deadline + past AS figure FROM (
  SELECT *, row_number() OVER (PARTITION BY resource ORDER BY past DESC, row, target) AS n FROM lag) WHERE n = 1;

-- What was found, beside what comes out here.
CREATE TEMP TABLE compared AS
SELECT f.criterion, f.resource, f.state, f.measured, c.figure,
       f.state = 'not-enough-data' AND f.criterion <> 'fresh-exposure-now' AS unsure,
       CASE WHEN f.measured = '' OR c.figure IS NULL THEN f.measured <> '' OR c.figure IS NOT NULL
            ELSE abs(CAST(f.measured AS REAL) - c.figure) > 1e-9 * max(1, abs(c.figure)) END AS differs
  FROM finding f
  JOIN (SELECT 'fresh-exposure-now' AS criterion, resource, figure FROM exposure
        UNION ALL SELECT 'fresh-attainment', a.resource, x.figure FROM asked a LEFT JOIN attainment x USING (resource)
        UNION ALL SELECT 'copies-number', resource, figure FROM copies
        UNION ALL SELECT 'copies-deadline', a.resource, x.figure FROM asked a LEFT JOIN copy_lag x USING (resource)) c
    USING (criterion, resource);
SELECT criterion || ' of ' || resource || ' is ' || coalesce(nullif(measured, ''), 'nothing') || ' in findings.csv, and comes out as '
       || coalesce(figure, 'nothing')
  FROM compared WHERE differs AND NOT unsure ORDER BY criterion, resource;
SELECT 'compared ' || criterion || ': ' || sum(NOT unsure) || ' figures, ' || sum(differs AND NOT unsure) || ' differ'
       || CASE WHEN sum(unsure) THEN '; ' || sum(unsure) || ' not known to the end, as their feeds are silent' ELSE '' END
  FROM compared GROUP BY criterion ORDER BY criterion;
SELECT 'usable points: ' || count(*) || ' of ' || (SELECT count(*) FROM recovery_point)
  FROM recovery_point q, pack p WHERE EXISTS (SELECT 1 FROM chain c
   WHERE c.resource = q.resource AND c.key = q.key AND c.since <= p.as_at AND p.as_at < c.until);
