#!/usr/bin/env bash
# A report of many rows that a recipe makes four kinds of rows of, beside the import of the same rows by files of the
# bundle that somebody shaped before.
# usage: recipe.sh [RESOURCES [RUNS-PER-RESOURCE [ROUNDS]]]      (defaults: 1000 1000 3)
# The bar is 2.5. Needs some 3 GB of free space in TMPDIR for the defaults.
set -euo pipefail
here=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
resources=${1:-1000} runs=${2:-1000} rounds=${3:-3}
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
cd "$work"
HEAP=${HEAP:-1g}
. "$here/bench/measuring.sh"
mkdir shaped
TZ=UTC awk -v r="$resources" -v p="$runs" -v now="$(($(date +%s) / 60 * 60))" '
function t(s) { return strftime("%Y-%m-%dT%H:%M:%SZ", s) } BEGIN {
  print "Job,Client,Level,Begin,End,Status,Kilobytes,Target" > "report.csv"
  print "key,name,kind" > "shaped/resources.csv"
  print "key,resource,form,started,available,outcome,size" > "shaped/points.csv"
  print "point,store,finished,state" > "shaped/copies.csv"
  print "key,type,resource,started,ended,outcome,bytes" > "shaped/jobs.csv"
  for (i = 0; i < r; i++) {
    printf "c%d,c%d,physical-server\n", i, i > "shaped/resources.csv"
    for (j = p; j > 0; j--) {
      a = now - j * 3600; b = t(a); e = t(a + 900); key = "c" i "/" b
      bad = (i + j) % 90 == 0
      printf "Nightly,c%d,Full,%s,%s,%s,%d,Near\n", i, b, e, bad ? "Failed" : "Completed", 1000 + j > "report.csv"
      printf "%s,c%d,full,%s,%s,%s,%d kB\n", key, i, b, e, bad ? "failed" : "complete", 1000 + j > "shaped/points.csv"
      if (!bad) printf "%s,Near,%s,present\n", key, e > "shaped/copies.csv"
      printf "%s,backup,c%d,%s,%s,%s,%d kB\n", key, i, b, e, bad ? "failed" : "succeeded", 1000 + j > "shaped/jobs.csv"
    }
  }
}'
cat > recipe.json <<'JSON'
{"name": "bench", "outputs": [
 {"file": "resources", "once": true, "fields": {"key": {"column": "client"}, "name": {"column": "client"},
  "kind": {"otherwise": "physical-server"}}},
 {"file": "points", "when": "!(status.lowerAscii() in ['running', 'queued'])", "fields": {
  "key": {"expression": "client + '/' + begin"}, "resource": {"column": "client"},
  "form": {"column": "level", "meanings": {"Full": "full"}}, "started": {"column": "begin"}, "available": {"column": "end"},
  "outcome": {"column": "status", "meanings": {"Completed": "complete", "Failed": "failed"}},
  "size": {"column": "kilobytes", "unit": "kB"}}},
 {"file": "copies", "when": "!(status.lowerAscii() in ['failed', 'running'])", "fields": {
  "point": {"expression": "client + '/' + begin"}, "store": {"column": "target"}, "finished": {"column": "end"},
  "state": {"otherwise": "present"}}},
 {"file": "jobs", "fields": {"key": {"expression": "client + '/' + begin"}, "type": {"otherwise": "backup"},
  "resource": {"column": "client"}, "started": {"column": "begin"}, "ended": {"column": "end"},
  "outcome": {"column": "status", "meanings": {"Completed": "succeeded", "Failed": "failed"}},
  "bytes": {"column": "kilobytes", "unit": "kB"}}}]}
JSON
for round in $(seq "$rounds"); do
  rm -rf a b
  timed recipe "$here/hard-proof" import --data a --feed bench --recipe recipe.json report.csv
  timed bundle "$here/hard-proof" import --data b --feed bench shaped
done
grep -h 'taken' recipe.out
same() { sqlite3 "$1/hard-proof.db" "SELECT count(*), sum(length(key)) FROM recovery_point; SELECT count(*) FROM copy; SELECT count(*) FROM job; SELECT count(*) FROM resource"; }
[ "$(same a)" = "$(same b)" ] || { echo "they are not the same facts" >&2; exit 1; }
report recipe "a report of $((resources * runs)) rows into four kinds"
report bundle "the same rows as files of the bundle"
ratio recipe bundle "ratio (bar 2.5)"
