# Read by facts.sh and evaluation.sh, in their working folder, with $here and $resources set: the estate that both
# use, and what measures whole processes. Needs GNU time.

export HARD_PROOF_JAVA_OPTS="-Xmx${HEAP:-512m}"
product() { "$here/hard-proof" "$@"; }
timed() { # NAME COMMAND...: wall seconds and peak memory into NAME.times
  local name=$1; shift
  # 1 is the code of findings; whatever failed says so.
  /usr/bin/time -f '%e %M' -o t "$@" > "$name.out" 2> "$name.err" || [ $? -eq 1 ] && ! grep -q '^hard-proof:\|^Exception' "$name.err" \
    || { cat "$name.err" >&2; exit 1; }
  tail -1 t >> "$name.times"
}
median() { sort -n "$1.times" | awk '{a[NR]=$1; m=$2>m?$2:m} END {printf "%s %.0f", a[int((NR+1)/2)], m/1024}'; }
report() { [ -f "$1.times" ] && { set -- "$1" "$2" $(median "$1"); printf '%-52s %8s s  %6s MB\n' "$2" "$3" "$4"; }; }
# ratio A B WORDS: the median of the rounds' ratios of A to B
ratio() { [ -f "$2.times" ] && paste "$1.times" "$2.times" | awk 'NF == 4 {print $1 / $3}' | sort -n | awk -v n="$3" '{a[NR] = $1} END {printf "%-52s %8.2f\n", n, a[int((NR + 1) / 2)]}'; }

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
