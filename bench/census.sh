#!/usr/bin/env bash
# An object store of many objects, listed by a server that goes on and held to as many claims, beside curl, sort and comm.
# usage: census.sh [RESOURCES [POINTS-PER-RESOURCE [ROUNDS]]]      (defaults: 1000 1000 3)
# The store is the stand-in, in a process of its own. The server has 512 MB of heap. Needs a built server.
set -euo pipefail
here=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
resources=${1:-1000} points=${2:-1000} rounds=${3:-3}
work=$(mktemp -d)
trap 'kill $(jobs -p) 2> /dev/null; rm -rf "$work"' EXIT
cd "$here"
mvn -q -o -ntp compile -pl standins -am -Dspotless.check.skip=true > /dev/null
libraries=$(find "$here/server/target/app/lib" -name '*.jar' 2> /dev/null | tr '\n' ':')
[ -n "$libraries" ] || { echo "Build the server first: its libraries are taken from there." >&2; exit 2; }
java -Xmx2g -cp "core/target/classes:proving/target/classes:standins/target/classes:$libraries" bench/StoreOf.java "$resources" "$points" > "$work/store" 2> "$work/store.log" &
cd "$work"
TZ=UTC awk -v r="$resources" -v p="$points" 'BEGIN {
  print "key,name,kind,first_seen" > "resources.csv"
  print "key,resource,form,data_time,available,outcome,size" > "points.csv"
  print "point,store,finished,state,place" > "copies.csv"
  for (i = 0; i < r; i++) {
    printf "r%d,Resource %d,file-share,2020-01-01T00:00:00Z\n", i, i > "resources.csv"
    for (j = 0; j < p; j++) {
      t = strftime("%Y-%m-%dT%H:%M:%SZ", 1793500000 - j * 3600)
      printf "r%d-%d,r%d,full,%s,%s,complete,100\n", i, j, i, t, t > "points.csv"
      printf "r%d-%d,far,2026-11-01T00:00:00Z,present,backups/r%d/p%d.img\n", i, j, i, j > "copies.csv"
    }
  }
}'
printf 'key,name,medium,site,online\nfar,FAR,object,B,yes\n' > stores.csv
export HARD_PROOF_JAVA_OPTS=-Xmx512m
"$here/hard-proof" import --data data --feed bench {stores,resources,points,copies}.csv > /dev/null
"$here/hard-proof" serve --data data --port 0 > serve.log 2>&1 &
server=$!
until grep -q 'Hard Proof is at' serve.log && [ -s store ]; do sleep 0.2; kill -0 $server; done
export ENDPOINT ADDRESS CODE ROUNDS=$rounds
ENDPOINT=$(cat store)
ADDRESS=$(sed -n 's/.*Hard Proof is at //p' serve.log)
CODE=$(sed -n 's/.*one-time code //p' serve.log)
cat > peer.sh <<'SH'
token=
: > there
while :; do
  curl -sS --fail --aws-sigv4 aws:amz:r-1:s3 --user key:secret -H 'x-amz-content-sha256: UNSIGNED-PAYLOAD' \
    "$ENDPOINT/b?${token:+continuation-token=$token&}list-type=2&max-keys=1000" > page
  grep -o '<Key>[^<]*' page | cut -c6- | sed 's,%2F,/,g' >> there
  token=$(grep -o '<NextContinuationToken>[^<]*' page | cut -c24- | sed 's/%/%25/g; s/+/%2B/g; s,/,%2F,g; s/=/%3D/g') || true
  [ -n "$token" ] || break
done
tail -n +2 copies.csv | cut -d, -f5 | LC_ALL=C sort > claimed
LC_ALL=C sort there | LC_ALL=C comm -3 - claimed | wc -l
SH
python3 - <<'PY'
import http.cookiejar, json, os, statistics, subprocess, time, urllib.request
address = os.environ["ADDRESS"]
jar = http.cookiejar.CookieJar()
opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))

def ask(path, body=None, method=None):
    token = next((c.value for c in jar if c.name == "XSRF-TOKEN"), "")
    request = urllib.request.Request(address + path, headers={"Content-Type": "application/json", "X-XSRF-TOKEN": token}, method=method,
                                     data=None if body is None else json.dumps(body).encode())
    with opener.open(request) as answer:
        return json.loads(answer.read() or b"null")

try:
    ask("/api/session")
except urllib.error.HTTPError:
    pass
sign = {"name": "ana", "password": "a long enough password"}
ask("/api/first-administrator", {"code": os.environ["CODE"], "fullName": "Ana", **sign})
ask("/api/session", sign)

def census():
    return ask("/api/stores")[0].get("census")

ask("/api/store-connections?store=far", {"kind": "object-store", "endpoint": os.environ["ENDPOINT"], "region": "r-1", "bucket": "b",
    "prefix": "", "pathStyle": True, "keyId": "key", "secret": {"secret": "secret"}}, "PUT")
ours, peer = [], []
for _ in range(int(os.environ["ROUNDS"])):
    begun, steps = time.time(), set()
    ask("/api/censuses", {"store": "far"})
    while (now := census())["state"] == "running":
        steps.add(now["things"])
        time.sleep(0.1)
    ours.append(time.time() - begun)
    begun = time.time()
    differ = subprocess.run(["bash", "peer.sh"], check=True, capture_output=True, text=True).stdout.strip()
    peer.append(time.time() - begun)
    print(f"{now['state']}: {now['sentence']}; told of on the way {len(steps)} times; the peer finds {differ} that differ")
with open(f"/proc/{subprocess.check_output(['pgrep', '-f', 'serve --data data --port 0'], text=True).split()[-1]}/status") as status:
    peak = next(line.split()[1] for line in status if line.startswith("VmHWM"))
print(f"ours {statistics.median(ours):.1f} s, curl, sort and comm {statistics.median(peer):.1f} s, ratio "
      f"{statistics.median(a / b for a, b in zip(ours, peer)):.2f}; the server at most {int(peak) // 1024} MB")
PY
