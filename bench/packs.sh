#!/usr/bin/env bash
# Making an evidence pack of an estate with a point a day and two copies of each, beside a general-purpose peer in the same
# run: zip and sha256sum over the unpacked bag, which compress and sum up the same bytes and evaluate nothing.
# usage: packs.sh [RESOURCES [DAYS [HEAP]]]      (defaults: 10000 30 1g)
set -euo pipefail
here=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
resources=${1:-10000} days=${2:-30} heap=${3:-1g}
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
cd "$work"
now=$(($(date +%s) / 60 * 60))
TZ=UTC awk -v n="$resources" -v days="$days" -v now="$now" 'function t(s) { return strftime("%Y-%m-%dT%H:%M:%SZ", s) } BEGIN {
  print "key,name,owner,tier" > "workloads.csv"
  print "key,name,kind,workload,site,first_seen" > "resources.csv"
  print "key,resource,form,data_time,available,outcome,consistency" > "points.csv"
  print "point,store,finished,state" > "copies.csv"
  for (i = 0; i < n; i++) {
    if (i % 5 == 0) printf "w%d,Workload number %d,Owner %d,%d\n", i / 5, i / 5, i % 40, 1 + i % 4 > "workloads.csv"
    printf "r%d,resource-%d,file-share,w%d,A,2025-01-01T00:00:00Z\n", i, i, i / 5 > "resources.csv"
    for (j = days; j >= 1; j--) {
      s = now - j * 86400 - i % 3600
      printf "r%d-%d,r%d,full,%s,%s,complete,application\n", i, j, i, t(s), t(s + 1800) > "points.csv"
      printf "r%d-%d,near,%s,present\nr%d-%d,far,%s,present\n", i, j, t(s + 1800), i, j, t(s + 7200) > "copies.csv"
    }
  }
}'
printf 'key,name,medium,site,failure_domain,online\nnear,NEAR,disk,A,a,yes\nfar,FAR,tape,B,b,no\n' > stores.csv
printf 'key,name,schedule,copy_to\ndaily,Daily,24h,far:24h\n' > policies.csv
"$here/hard-proof" import --data data --feed bench {stores,policies,workloads,resources,points,copies}.csv > /dev/null
# States of points are packed when they are first looked at, once: that is bench/evaluation.sh's.
"$here/hard-proof" evaluate --data data > /dev/null || true
export HARD_PROOF_JAVA_OPTS=-Xmx$heap
echo "$resources resources, $((resources * days)) points, $((2 * resources * days)) copies, heap at most $heap"
/usr/bin/time -f "pack:   %e s, %M kB at most" "$here/hard-proof" pack --data data --out pack.zip
/usr/bin/time -f "verify: %e s, %M kB at most" "$here/hard-proof" verify pack.zip | tail -1
mkdir bag && cd bag && unzip -q ../pack.zip && cd ./*
du -sh . | sed 's/\t.*/ unpacked/'
/usr/bin/time -f "peer:   %e s, sha256sum and zip of the same files" sh -c 'find . -type f | xargs sha256sum > /dev/null; zip -qr ../../peer.zip .'
/usr/bin/time -f "SQL:    %e s, recompute.sql" sh -c 'sqlite3 -readonly data/facts.sqlite < proof/recompute.sql'
