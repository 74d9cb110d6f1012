#!/usr/bin/env bash
# How long the large answers take: ten people at once ask for Board and Findings of an estate with many workloads.
# usage: screens.sh [WORKLOADS [SECONDS]]      (defaults: 10000 20)
# Prints median, 95th percentile and worst of each answer, in milliseconds, as a client on this machine sees it.
set -euo pipefail
here=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
workloads=${1:-10000} seconds=${2:-20}
work=$(mktemp -d)
trap 'kill $server 2> /dev/null; rm -rf "$work"' EXIT
cd "$work"
now=$(($(date +%s) / 60 * 60))
TZ=UTC awk -v n="$workloads" -v now="$now" 'function t(s) { return strftime("%Y-%m-%dT%H:%M:%SZ", s) } BEGIN {
  print "key,name,owner,tier" > "workloads.csv"
  print "key,name,kind,workload,site,first_seen" > "resources.csv"
  print "key,resource,form,data_time,available,outcome" > "points.csv"
  print "point,store,finished,state" > "copies.csv"
  for (i = 0; i < n; i++) {
    printf "w%d,Workload number %d,Owner %d,%d\n", i, i, i % 40, 1 + i % 4 > "workloads.csv"
    printf "r%d,resource-%d,file-share,w%d,A,2026-01-01T00:00:00Z\n", i, i, i > "resources.csv"
    for (j = 1; j <= 3; j++) {
      s = now - j * 86400 - i % 3600
      printf "r%d-%d,r%d,full,%s,%s,complete\n", i, j, i, t(s), t(s + 1800) > "points.csv"
      printf "r%d-%d,near,%s,present\n", i, j, t(s + 1800) > "copies.csv"
    }
  }
}'
printf 'key,name,medium,site,failure_domain,online\nnear,NEAR,disk,A,a,yes\n' > stores.csv
"$here/hard-proof" import --data data --feed bench {stores,workloads,resources,points,copies}.csv > /dev/null
"$here/hard-proof" serve --data data --port 0 > serve.log 2>&1 &
server=$!
until grep -q 'Hard Proof is at' serve.log; do sleep 0.2; kill -0 $server; done
export ADDRESS CODE SECONDS_EACH=$seconds
ADDRESS=$(sed -n 's/.*Hard Proof is at //p' serve.log)
CODE=$(sed -n 's/.*one-time code //p' serve.log)
python3 - <<'PY'
import http.cookiejar, json, os, random, statistics, threading, time, urllib.request
address, seconds = os.environ["ADDRESS"], int(os.environ["SECONDS_EACH"])

def person():
    jar = http.cookiejar.CookieJar()
    opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))
    def ask(path, body=None):
        token = next((c.value for c in jar if c.name == "XSRF-TOKEN"), "")
        request = urllib.request.Request(address + path, headers={"Accept-Encoding": "gzip", "Content-Type": "application/json", "X-XSRF-TOKEN": token},
                                         data=None if body is None else json.dumps(body).encode())
        with opener.open(request) as answer:
            return answer.read()
    try:
        ask("/api/session")
    except urllib.error.HTTPError:
        pass
    return ask

first = person()
sign = {"name": "ana", "password": "a long enough password"}
first("/api/first-administrator", {"code": os.environ["CODE"], "fullName": "Ana", **sign})
QUERIES = {
    "Board": lambda: "/api/board",
    "Findings, a page of 200": lambda: "/api/findings?state=open&limit=200",
    "Findings, by criterion, one tier, with a search": lambda: f"/api/findings?state=open&group=criterion&tier={random.randint(1, 4)}&search=resource-{random.randint(0, 99)}",
}
people = [person() for _ in range(10)]
for ask in people: # hashing passwords takes its time on purpose, and none of what is measured
    ask("/api/session", sign)

def ten(path):
    times, ends = [], time.time() + seconds
    def user(ask):
        while time.time() < ends:
            time.sleep(random.uniform(0.5, 1.5))  # somebody who looks at what came
            begun = time.perf_counter()
            ask(path())
            times.append((time.perf_counter() - begun) * 1000)
    users = [threading.Thread(target=user, args=(ask,)) for ask in people]
    [u.start() for u in users]
    [u.join() for u in users]
    return sorted(times)

for path in QUERIES.values(): # once, so that the program is compiled
    ten(path)
print(f"{'milliseconds':50s} median    95%  worst")
for name, path in QUERIES.items():
    t = ten(path)
    print(f"{name:50s} {statistics.median(t):6.0f} {t[int(len(t) * 0.95)]:6.0f} {t[-1]:6.0f}   of {len(t)} answers")
PY
