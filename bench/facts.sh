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
  for (i = 0; i < r; i++) for (j = p; j > 0; j--) {
    data = now - j * 3600; free = data + 60 * int(5 + rand() * 20)
    at = strftime("%Y-%m-%dT%H:%M:%SZ", free)
    printf "r%d-%d,r%d,full,%s,%s,%s,file,%d\n", i, j, i, strftime("%Y-%m-%dT%H:%M:%SZ", data), at, \
      rand() < 0.011 ? "failed" : "complete", 1000000 + rand() * 10000 > "points.csv"
  }
}'
echo "$((resources * points)) points of $resources resources: $(du -h points.csv | cut -f1) of CSV"

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

report() { set -- "$1" "$2" $(median "$1"); printf '%-44s %8s s  %6s MB\n' "$2" "$3" "$4"; }
report import "import of points, validated, with states"
report sqlite-import "  sqlite3 .import, indexed afterwards"
paste import.times sqlite-import.times | awk '{print $1 / $3}' | sort -n | awk '{a[NR] = $1} END {print "ratio, median of the rounds: " a[int((NR + 1) / 2)]}'
echo "file: $(du -h data/hard-proof.db | cut -f1)"
