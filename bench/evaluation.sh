#!/usr/bin/env bash
# Evaluating an estate with many points, two copies each, beside general-purpose peers in the same run.
# usage: evaluation.sh [RESOURCES [POINTS-PER-RESOURCE [ROUNDS]]]      (defaults: 10000 1000 5)
# Peers: the worst exposure by window functions in SQLite on our file (one round in five), and in DuckDB on its
# own table, where python3 has it. The points are filled in by SQL: importing is measured by facts.sh. Needs
# some 5 GB of free space in TMPDIR for the defaults, and ten minutes before the first figure.
set -euo pipefail
here=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
resources=${1:-10000} points=${2:-1000} rounds=${3:-5}
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
cd "$work"
. "$here/bench/measuring.sh"
product import --data data --feed bench stores.csv policies.csv workloads.csv resources.csv > /dev/null

# A point an hour, some minutes late each; one in ninety failed. Indexes are made afterwards.
of="type = 'index' AND tbl_name IN ('recovery_point', 'copy') AND sql IS NOT NULL"
sqlite3 data/hard-proof.db "SELECT sql || ';' FROM sqlite_schema WHERE $of" > index.sql
sqlite3 data/hard-proof.db "SELECT 'DROP INDEX ' || name || ';' FROM sqlite_schema WHERE $of" > drop.sql
cat > fill.sql <<SQL
PRAGMA cache_size = -262144; PRAGMA synchronous = OFF;
BEGIN;
.read drop.sql
CREATE TEMP TABLE n AS WITH RECURSIVE c (x) AS (SELECT 0 UNION ALL SELECT x + 1 FROM c WHERE x < max($resources, $points) - 1) SELECT x FROM c;
CREATE TEMP TABLE t AS SELECT (unixepoch() / 60 * 60) AS now, unixepoch() * 1000 AS recorded;
INSERT INTO recovery_point (feed, recorded_at, key, resource, form, data_time, available, outcome, consistency, size_bytes)
  SELECT 'bench', recorded, 'r' || i.x || '-' || j.x, 'r' || i.x, 'full', (now - ($points - j.x) * 3600) * 1000,
         (now - ($points - j.x) * 3600 + 60 * (5 + abs(random()) % 20)) * 1000,
         CASE WHEN abs(random()) % 90 = 0 THEN 'failed' ELSE 'complete' END, 'file', 1000000 + abs(random()) % 10000
    FROM t, n i, (SELECT x FROM n WHERE x < $points) j WHERE i.x < $resources;
INSERT INTO copy (feed, recorded_at, point, store, finished, state)
  SELECT 'bench', recorded_at, key, s.column1, available, 'present' FROM recovery_point, (VALUES ('near'), ('far')) s;
.read index.sql
COMMIT;
SQL
sqlite3 data/hard-proof.db < fill.sql
echo "$((resources * points)) points of $resources resources, two copies each; file $(du -h data/hard-proof.db | cut -f1)"
timed pack "$here/hard-proof" evaluate --exposure --data data

cat > exposure.sql <<'SQL'
WITH usable AS (
  SELECT resource, data_time AS d, available AS a FROM recovery_point WHERE outcome = 'complete' AND replaced_at IS NULL
), run AS (
  SELECT resource, a, max(d) OVER w AS newest, lead(a) OVER w AS next FROM usable
  WINDOW w AS (PARTITION BY resource ORDER BY a ROWS UNBOUNDED PRECEDING)
)
SELECT count(*), sum(worst) FROM (SELECT resource, max(coalesce(next, a) - newest) AS worst FROM run GROUP BY resource);
SQL
duckdb=
if python3 -c 'import duckdb' 2> /dev/null; then
  duckdb=1
  sqlite3 -csv data/hard-proof.db "SELECT resource, outcome, data_time, available FROM recovery_point" > points.csv
  python3 -c "
import duckdb
c = duckdb.connect('duck.db')
c.execute('SET enable_progress_bar = false')
c.execute(\"CREATE TABLE recovery_point AS SELECT *, NULL AS replaced_at FROM read_csv('points.csv', header = false, names = ['resource', 'outcome', 'data_time', 'available'])\")"
  rm points.csv
fi
for round in $(seq "$rounds"); do
  timed exposure "$here/hard-proof" evaluate --exposure --data data
  timed evaluate "$here/hard-proof" evaluate --data data
  [ -z "$duckdb" ] || timed duckdb python3 -c "
import duckdb
print(duckdb.connect('duck.db', read_only = True).execute(open('exposure.sql').read()).fetchall())"
  [ $((round % 5)) -ne 1 ] || timed sqlite-windows sqlite3 data/hard-proof.db '.read exposure.sql'
done
java=${JAVA_HOME:+$JAVA_HOME/bin/}java app=$here/server/target/app
"$java" $HARD_PROOF_JAVA_OPTS -cp "$app/hard-proof.jar:$app/lib/*" "$here/bench/NewPoint.java" data > new-point.out 2> /dev/null

report pack "packing the columns, once, with the exposure"
report exposure "exposure now, worst and attainment, cold process"
report evaluate "every criterion and verdict, cold process"
report duckdb "  worst exposure by window functions in DuckDB" || true
report sqlite-windows "  the same in SQLite, on our file"
ratio exposure duckdb "exposure ÷ DuckDB" || true
ratio exposure sqlite-windows "exposure ÷ SQLite"
ratio evaluate exposure "every criterion ÷ exposure"
sort -n new-point.out | awk '{a[NR] = $1} END {printf "%-52s %8.0f ms\n", "every verdict again after one new point, warm", a[int((NR + 1) / 2)]}'
echo "file with the columns: $(du -h data/hard-proof.db | cut -f1)"
