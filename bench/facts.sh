#!/usr/bin/env bash
# Facts at scale: importing points and evaluating them, beside general-purpose peers in the same run.
# usage: facts.sh [RESOURCES [POINTS-PER-RESOURCE [ROUNDS]]]      (defaults: 1000 1000 3)
# Peers: sqlite3 .import of the same file into a table indexed afterwards; window functions in SQLite, and
# in DuckDB where python3 has it. Needs some 1.5 GB of free space in TMPDIR for the defaults.
set -euo pipefail
here=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
resources=${1:-1000} points=${2:-1000} rounds=${3:-3}
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
cd "$work"

now=$(($(date +%s) / 60 * 60))
awk -v r="$resources" 'BEGIN {
  print "key,name,kind,workload,site,first_seen" > "resources.csv"
  print "key,name,owner,tier" > "workloads.csv"
  for (i = 0; i < r; i++) {
    if (i % 10 == 0) printf "w%d,Workload %d,Owner %d,%d\n", i / 10, i / 10, i % 7, 1 + (i / 10) % 4 > "workloads.csv"
    printf "r%d,Resource %d,file-share,w%d,A,2020-01-01T00:00:00Z\n", i, i, i / 10 > "resources.csv"
  }
}'
printf 'key,name,medium,site,failure_domain,online\nnear,NEAR,disk,A,a,yes\nfar,FAR,tape,B,b,no\n' > stores.csv
printf 'key,name,schedule,keep_last,copy_to\ndaily,Daily,1h,1000,far:12h\n' > policies.csv
# A point an hour, some minutes late each; one in ninety failed.
TZ=UTC awk -v r="$resources" -v p="$points" -v now="$now" 'BEGIN {
  srand(7)
  print "key,resource,form,data_time,available,outcome,consistency,size" > "points.csv"
  print "point,store,finished,state" > "copies.csv"
  for (i = 0; i < r; i++) for (j = p; j > 0; j--) {
    data = now - j * 3600; free = data + 60 * int(5 + rand() * 20)
    at = strftime("%Y-%m-%dT%H:%M:%SZ", free)
    printf "r%d-%d,r%d,full,%s,%s,%s,file,%d\n", i, j, i, strftime("%Y-%m-%dT%H:%M:%SZ", data), at, \
      rand() < 0.011 ? "failed" : "complete", 1000000 + rand() * 10000 > "points.csv"
    printf "r%d-%d,near,%s,present\nr%d-%d,far,%s,present\n", i, j, at, i, j, at > "copies.csv"
  }
}'
echo "$((resources * points)) points of $resources resources, two copies each: $(du -ch points.csv copies.csv | tail -1 | cut -f1) of CSV"

export HARD_PROOF_JAVA_OPTS="-Xmx${HEAP:-512m}"
product() { "$here/hard-proof" "$@"; }
timed() { # NAME COMMAND...: wall seconds and peak memory into NAME.times
  local name=$1; shift
  /usr/bin/time -f '%e %M' -o t "$@" > "$name.out" 2> "$name.err" || [ $? -eq 1 ] || { cat "$name.err" >&2; exit 1; }
  tail -1 t >> "$name.times"
}
median() { sort -n "$1.times" | awk '{a[NR]=$1; m=$2>m?$2:m} END {printf "%s %.0f", a[int((NR+1)/2)], m/1024}'; }

cat > import.sql <<'SQL'
PRAGMA journal_mode=WAL; PRAGMA cache_size=-65536;
CREATE TABLE p (key TEXT, resource TEXT, form TEXT, data_time TEXT, available TEXT, outcome TEXT, consistency TEXT, size INTEGER);
.import --csv --skip 1 points.csv p
CREATE UNIQUE INDEX p_key ON p (key); CREATE INDEX p_resource ON p (resource, data_time);
SQL
cat > product_import_points.sh <<SH
#!/bin/sh
exec "$here/hard-proof" import --data data --feed bench points.csv
SH
chmod +x product_import_points.sh
for round in $(seq "$rounds"); do
  rm -rf data peer.db*
  product import --data data --feed bench stores.csv policies.csv workloads.csv resources.csv > /dev/null
  timed import ./product_import_points.sh
  timed sqlite-import sqlite3 peer.db -init import.sql .quit
done
product import --data data --feed bench copies.csv > /dev/null

cat > exposure.sql <<'SQL'
WITH usable AS (
  SELECT p.resource, p.data_time AS d, p.available AS a FROM recovery_point p
   WHERE p.outcome = 'complete' AND p.replaced_at IS NULL
), run AS (
  SELECT resource, a, max(d) OVER w AS newest, lead(a) OVER w AS next FROM usable
  WINDOW w AS (PARTITION BY resource ORDER BY a ROWS UNBOUNDED PRECEDING)
)
SELECT count(*), sum(worst) FROM (SELECT resource, max(coalesce(next, a) - newest) AS worst FROM run GROUP BY resource);
SQL
cat > evaluate.sh <<SH
#!/bin/sh
exec "$here/hard-proof" evaluate --data data
SH
chmod +x evaluate.sh
for round in $(seq "$rounds"); do
  timed evaluate ./evaluate.sh
  timed sqlite-windows sqlite3 data/hard-proof.db '.read exposure.sql'
  if python3 -c 'import duckdb' 2>/dev/null; then
    timed duckdb python3 -c "
import duckdb
c = duckdb.connect('duck.db')
c.execute(\"CREATE TABLE IF NOT EXISTS recovery_point AS SELECT resource, outcome, epoch_ms(data_time::TIMESTAMPTZ) AS data_time, epoch_ms(available::TIMESTAMPTZ) AS available, NULL AS replaced_at FROM read_csv('points.csv')\")
print(c.execute(open('exposure.sql').read()).fetchall())"
  fi
done
report() { [ -f "$1.times" ] && { set -- "$1" "$2" $(median "$1"); printf '%-44s %8s s  %6s MB\n' "$2" "$3" "$4"; }; }
report import "import of points, validated, with states"
report sqlite-import "  sqlite3 .import, indexed afterwards"
report evaluate "every criterion and verdict, cold"
report sqlite-windows "  worst exposure by SQLite window functions"
report duckdb "  the same by DuckDB" || true
echo "file: $(du -h data/hard-proof.db | cut -f1)"
