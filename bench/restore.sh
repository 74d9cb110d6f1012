#!/usr/bin/env bash
# Full restore of a tar.gz and a tar.zst, compared with its manifest, as a run in the product, beside GNU tar to the
# same disk and `sha256sum -c`, alternating, warm cache. Then the memory that reading a 64 GiB sparse file takes.
# Usage: bench/restore.sh [ROUNDS] ; size by MIB (default 1024), of the sparse file by SPARSE_GIB (64; 0 leaves it out).
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
rounds=${1:-5}
mib=${MIB:-1024}
work=$(mktemp -d "${TMPDIR:-/tmp}/hard-proof-bench.XXXXXX")
trap 'rm -rf "$work"' EXIT
[ -f server/target/hard-proof.jar ] || mvn -q -ntp -DskipTests -Dspotless.check.skip=true package -pl server -am

# Text that compresses about as files do, and a tenth that does not compress.
mkdir -p "$work/tree" "$work/store" "$work/bundle"
base64 -w 100 /dev/urandom | head -c $((8 * 1048576)) > "$work/words" || true
for ((i = 0; i < mib / 8; i++)); do
  { head -c $((7 * 1048576)) "$work/words"; head -c 1048576 /dev/urandom; } > "$work/tree/f$i"
done
(cd "$work/tree" && sha256sum f* > ../SUMS)
tar -C "$work/tree" -czf "$work/store/a.tar.gz" .
tar -C "$work/tree" -c . | zstd -q -3 > "$work/store/b.tar.zst"
printf 'key,name,medium,online,path\ns,STORE,disk,yes,%s\n' "$work/store" > "$work/bundle/stores.csv"
printf 'key,name,kind\ngz,gz,file-share\nzst,zst,file-share\n' > "$work/bundle/resources.csv"
echo "key,resource,form,data_time,available,outcome,size" > "$work/bundle/points.csv"
echo "point,store,finished,state,format,place,sha256,manifest" > "$work/bundle/copies.csv"
for case in gz:a.tar.gz:tar.gz zst:b.tar.zst:tar.zst; do
  IFS=: read -r key file format <<< "$case"
  cp "$work/SUMS" "$work/store/$file.sha256"
  t=$(date -u -d '1 day ago' +%Y-%m-%dT%H:%M:%SZ)
  echo "$key-1,$key,full,$t,$t,complete,$(stat -c %s "$work/store/$file")" >> "$work/bundle/points.csv"
  echo "$key-1,s,,present,$format,$file,$(sha256sum < "$work/store/$file" | cut -c1-64),$(sha256sum < "$work/SUMS" | cut -c1-64)" >> "$work/bundle/copies.csv"
done
mkdir -p "$work/data" && echo "$work" > "$work/data/store-roots"
./hard-proof import --data "$work/data" --feed bench "$work/bundle" > "$work/import.log" || { cat "$work/import.log" >&2; exit 1; }

milliseconds() { local t0 t1; t0=$(date +%s%N); "$@" > /dev/null 2>&1; t1=$(date +%s%N); echo "$(((t1 - t0) / 1000000))"; }
median() { sort -n | awk '{ v[NR] = $1 } END { print v[int((NR + 1) / 2)] }'; }
ours() { ./hard-proof drill --data "$work/data" "$1" --method full-restore --reason bench; }
gnu() { rm -rf "$work/out"; mkdir "$work/out"; tar -C "$work/out" -xf "$work/store/$1" && (cd "$work/out" && sha256sum --quiet -c ../SUMS); }

echo "medians of $rounds alternating rounds, $(nproc) processors, $mib MiB"
for case in gz:a.tar.gz zst:b.tar.zst; do
  IFS=: read -r key file <<< "$case"
  : > "$work/o"; : > "$work/g"
  gnu "$file"
  for ((r = 0; r < rounds; r++)); do
    milliseconds ours "$key" >> "$work/o"
    milliseconds gnu "$file" >> "$work/g"
  done
  awk -v n="$file" -v o="$(median < "$work/o")" -v g="$(median < "$work/g")" 'BEGIN {
    printf "%-10s process %6d ms  GNU tar and sha256sum -c %6d ms  ratio %.2f\n", n, o, g, o / g }'
done

gib=${SPARSE_GIB:-64}
[ "$gib" = 0 ] && exit 0
truncate -s "${gib}G" "$work/store/sparse.img"
printf 'key,name,kind\nsp,sp,volume\n' > "$work/bundle/resources.csv"
echo "key,resource,form,data_time,available,outcome,size" > "$work/bundle/points.csv"
echo "sp-1,sp,full,$t,$t,complete,$((gib * 1073741824))" >> "$work/bundle/points.csv"
printf 'point,store,finished,state,format,place\nsp-1,s,,present,img,sparse.img\n' > "$work/bundle/copies.csv"
./hard-proof import --data "$work/data" --feed bench "$work/bundle" > "$work/import.log"
HARD_PROOF_JAVA_OPTS=-Xmx256m /usr/bin/time -f 'sparse '"$gib"' GiB: %e s, %M kB resident at the most, with a heap of at most 256 MiB' \
  ./hard-proof drill --data "$work/data" sp --method read-through --reason bench > "$work/sparse.out" || { cat "$work/sparse.out" >&2; exit 1; }
tail -1 "$work/sparse.out"
