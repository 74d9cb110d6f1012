#!/usr/bin/env bash
# Read-through as a run in the server, beside `sha256sum -c` and two `openssl dgst`, alternating, warm cache. Two runs
# go before, as the server compiles what it does often. Needs Python for its client.
# Usage: bench/read-through.sh [ROUNDS] ; sizes by TWO_FILES_MIB and THOUSAND_FILES_KIB.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
rounds=${1:-5}
work=$(mktemp -d "${TMPDIR:-/tmp}/hard-proof-bench.XXXXXX")
trap 'rm -rf "$work"' EXIT

# make NAME COUNT BYTES: a chain of COUNT artifacts and the bundle that tells of it
make_case() {
  local name=$1 count=$2 bytes=$3 store=$work/$1/store bundle=$work/$1/bundle
  mkdir -p "$store" "$bundle"
  for ((i = 0; i < count; i++)); do head -c "$bytes" /dev/urandom > "$store/a$i.bin"; done
  (cd "$store" && sha256sum a*.bin > ../SUMS)
  printf 'key,name,medium,online,path\ns,STORE,disk,yes,%s\n' "$store" > "$bundle/stores.csv"
  printf 'key,name,kind\nr,r,volume\n' > "$bundle/resources.csv"
  echo "key,resource,form,based_on,data_time,available,outcome,size" > "$bundle/points.csv"
  echo "point,store,finished,state,format,place,sha256" > "$bundle/copies.csv"
  local start; start=$(date -u -d '2 days ago' +%s)
  for ((i = 0; i < count; i++)); do
    local t; t=$(date -u -d "@$((start + i))" +%Y-%m-%dT%H:%M:%SZ)
    if [ "$i" = 0 ]; then form=full base=; else form=incremental base=p$((i - 1)); fi
    echo "p$i,r,$form,$base,$t,$t,complete,$bytes" >> "$bundle/points.csv"
  done
  awk -v start="$start" '{ n = $2; sub(/^a/, "", n); sub(/\.bin$/, "", n); print "p" n ",s,,present,," $2 "," $1 }' "$work/$name/SUMS" >> "$bundle/copies.csv"
  mkdir -p "$work/$name/data" && echo "$work" > "$work/$name/data/store-roots"
  ./hard-proof import --data "$work/$name/data" --feed bench "$bundle" > "$work/$name/import.log" \
    || { cat "$work/$name/import.log" >&2; exit 1; }
}

seconds() { local t0 t1; t0=$(date +%s%N); "$@" > /dev/null; t1=$(date +%s%N); echo "$(((t1 - t0) / 1000000))"; }
median() { sort -n | awk '{ v[NR] = $1 } END { print v[int((NR + 1) / 2)] }'; }
files() { if [ -d "$work/$1/store/tree" ]; then echo "$work/$1/store/tree"; else echo "$work/$1/store"; fi; }
sums() { (cd "$(files "$1")" && sha256sum --quiet -c "$work/$1/SUMS"); }
two_openssl() { (cd "$(files "$1")" && find . -type f | xargs -P2 -n "$2" openssl dgst -sha256); }

measure() {
  local name=$1 per=$2
  : > "$work/ours"; : > "$work/sha"; : > "$work/ssl"
  sums "$name" # warm the cache
  coproc SERVER { bench/server-drill.py "$work/$name/data" r read-through; }
  local to=${SERVER[1]} from=${SERVER[0]} one
  for ((r = -2; r < rounds; r++)); do
    echo >&"$to"
    read -r one <&"$from"
    [ "$r" -lt 0 ] && continue
    echo "$one" >> "$work/ours"
    seconds sums "$name" >> "$work/sha"
    seconds two_openssl "$name" "$per" >> "$work/ssl"
  done
  exec {to}>&-
  wait "$SERVER_PID"
  local ours sha ssl
  ours=$(median < "$work/ours"); sha=$(median < "$work/sha"); ssl=$(median < "$work/ssl")
  awk -v n="$name" -v o="$ours" -v s="$sha" -v x="$ssl" 'BEGIN {
    printf "%-14s run %6d ms  sha256sum -c %6d ms, ratio %.2f  two openssl %6d ms, ratio %.2f\n", n, o, s, o / s, x, o / x }'
}

# make_folder NAME COUNT BYTES: one artifact that is a folder of COUNT files, with the manifest beside it
make_folder() {
  local name=$1 count=$2 bytes=$3 store=$work/$1/store bundle=$work/$1/bundle
  mkdir -p "$store/tree" "$bundle"
  head -c "$((count * bytes))" /dev/urandom | split -b "$bytes" -a 5 - "$store/tree/f"
  (cd "$store/tree" && find . -type f -name 'f*' -printf '%P\0' | sort -z | xargs -0 sha256sum > ../tree.sha256)
  cp "$store/tree.sha256" "$work/$name/SUMS"
  printf 'key,name,medium,online,path\ns,STORE,disk,yes,%s\n' "$store" > "$bundle/stores.csv"
  printf 'key,name,kind\nr,r,file-share\n' > "$bundle/resources.csv"
  local t; t=$(date -u -d '2 days ago' +%Y-%m-%dT%H:%M:%SZ)
  printf 'key,resource,form,data_time,available,outcome\np,r,full,%s,%s,complete\n' "$t" "$t" > "$bundle/points.csv"
  printf 'point,store,state,format,place,manifest\np,s,present,folder,tree,%s\n' "$(sha256sum < "$store/tree.sha256" | cut -c1-64)" > "$bundle/copies.csv"
  mkdir -p "$work/$name/data" && echo "$work" > "$work/$name/data/store-roots"
  ./hard-proof import --data "$work/$name/data" --feed bench "$bundle" > "$work/$name/import.log" \
    || { cat "$work/$name/import.log" >&2; exit 1; }
}

[ -f server/target/hard-proof.jar ] || mvn -q -ntp -DskipTests -Dspotless.check.skip=true package -pl server -am
echo "medians of $rounds alternating rounds, $(nproc) processors"
make_case two-files 2 $((${TWO_FILES_MIB:-1024} * 1048576))
measure two-files 1
make_case thousand-files 1000 $((${THOUSAND_FILES_KIB:-1024} * 1024))
measure thousand-files 500
make_folder many-small "${MANY_SMALL:-100000}" 10240
measure many-small 5000
