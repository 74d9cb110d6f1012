#!/usr/bin/env bash
# Importing points, beside a general-purpose peer in the same run.
# usage: facts.sh [RESOURCES [POINTS-PER-RESOURCE [ROUNDS]]]      (defaults: 1000 1000 5)
# The peer is sqlite3 .import of the same file into a table that is indexed afterwards. Needs some 1 GB of free
# space in TMPDIR for the defaults.
set -euo pipefail
here=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
resources=${1:-1000} points=${2:-1000} rounds=${3:-5}
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
cd "$work"

now=$(($(date +%s) / 60 * 60))
. "$here/bench/measuring.sh"
# A point an hour, some minutes late each; one in ninety failed.
TZ=UTC awk -v r="$resources" -v p="$points" -v now="$now" 'BEGIN {
  srand(7)
  print "key,resource,form,data_time,available,outcome,consistency,size" > "points.csv"
  for (i = 0; i < r; i++) for (j = p; j > 0; j--) {
    data = now - j * 3600; free = data + 60 * int(5 + rand() * 20)
    at = strftime("%Y-%m-%dT%H:%M:%SZ", free)
    printf "r%d-%d,r%d,full,%s,%s,%s,file,%d\n", i, j, i, strftime("%Y-%m-%dT%H:%M:%SZ", data), at, \
      rand() < 0.011 ? "failed" : "complete", 1000000 + rand() * 10000 > "points.csv"
  }
}'
echo "$((resources * points)) points of $resources resources: $(du -h points.csv | cut -f1) of CSV"


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

report import "import of points, validated, with states"
report sqlite-import "  sqlite3 .import, indexed afterwards"
ratio import sqlite-import "import ÷ sqlite3 .import"
echo "file: $(du -h data/hard-proof.db | cut -f1)"
