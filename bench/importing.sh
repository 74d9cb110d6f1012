#!/usr/bin/env bash
# How long answers take while facts are brought in: ten people look at an estate, and one of them writes, while the
# server takes a million points in from its inbox.
# usage: importing.sh [RESOURCES [POINTS-PER-RESOURCE]]      (defaults: 1000 1000)
# Prints median, 95th percentile and worst of each answer, in milliseconds, from the beginning of the import until
# half a minute after its end. The bar is 1,000 ms for the worst.
set -euo pipefail
here=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
resources=${1:-1000} points=${2:-1000}
work=$(mktemp -d)
trap 'kill $server 2> /dev/null; rm -rf "$work"' EXIT
cd "$work"
. "$here/bench/measuring.sh"
now=$(($(date +%s) / 60 * 60))
TZ=UTC awk -v r="$resources" -v p="$points" -v now="$now" 'function t(s) { return strftime("%Y-%m-%dT%H:%M:%SZ", s) } BEGIN {
  head = "key,resource,form,data_time,available,outcome,consistency,size"
  print head > "points-first.csv"; print head > "points.csv"
  for (i = 0; i < r; i++) for (j = p; j > -3; j--) {
    data = now - (j + 3) * 3600
    row = sprintf("r%d-%d,r%d,full,%s,%s,complete,file,1000000", i, j, i, t(data), t(data + 900))
    print row > (j > 0 ? "points.csv" : "points-first.csv")
  }
}'
product import --data data --feed bench stores.csv policies.csv workloads.csv resources.csv points-first.csv > /dev/null
export HARD_PROOF_JAVA_OPTS="$HARD_PROOF_JAVA_OPTS ${SERVER_OPTS:-}"
"$here/hard-proof" serve --data data --port 0 > serve.log 2>&1 &
server=$!
until grep -q 'Hard Proof is at' serve.log; do sleep 0.2; kill -0 $server; done
export ADDRESS CODE WORK=$work
ADDRESS=$(sed -n 's/.*Hard Proof is at //p' serve.log)
CODE=$(sed -n 's/.*one-time code //p' serve.log)
python3 - <<'PY'
import http.cookiejar, json, os, pathlib, random, shutil, statistics, threading, time, urllib.error, urllib.request
address, work = os.environ["ADDRESS"], pathlib.Path(os.environ["WORK"])

def person():
    jar = http.cookiejar.CookieJar()
    opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))
    def ask(path, body=None, method=None):
        token = next((c.value for c in jar if c.name == "XSRF-TOKEN"), "")
        request = urllib.request.Request(address + path, method=method,
                                         headers={"Accept-Encoding": "gzip", "Content-Type": "application/json", "X-XSRF-TOKEN": token},
                                         data=None if body is None else json.dumps(body).encode())
        with opener.open(request) as answer:
            return answer.read()
    return ask

first = person()
sign = {"name": "ana", "password": "a long enough password"}
first("/api/session")
first("/api/first-administrator", {"code": os.environ["CODE"], "fullName": "Ana", **sign})
people = [person() for _ in range(10)]
for ask in people:
    ask("/api/session")
    ask("/api/session", sign)
LOOKS = {
    "Board": lambda: "/api/board",
    "Findings, a page of 200": lambda: "/api/findings?state=open&limit=200",
    "Case file": lambda: f"/api/workloads/w{random.randint(0, 9)}",
    "Feeds": lambda: "/api/feeds",
    "Runs": lambda: "/api/drill-runs",
}
times, refused, wrong = {}, 0, 0
over = threading.Event()
start = time.time()

def measured(name, ask, *request):
    global refused, wrong
    begun = time.perf_counter()
    try:
        ask(*request)
    except urllib.error.HTTPError as e:
        refused += e.code == 503
        wrong += e.code != 503
        if e.code != 503:
            print(name, e.code, e.read()[:200])
    took = (time.perf_counter() - begun) * 1000
    times.setdefault(name, []).append(took)
    if took > 1000 and os.environ.get("SLOW"):
        print(f"  {name}: {took:.0f} ms, {time.time() - start:.1f} s after the beginning")

def user(ask, writes):
    while not over.is_set():
        time.sleep(random.uniform(0.5, 1.5))
        name = random.choice(list(LOOKS))
        measured(name, ask, LOOKS[name]())
        if writes:
            measured("A change (503 while facts come in)", ask, "/api/feeds/bench", {"expectedEvery": "26h", "fullListings": []}, "PUT")

for _ in range(20):  # once, so that the program is compiled
    for path in LOOKS.values():
        people[0](path())
users = [threading.Thread(target=user, args=(ask, i == 0)) for i, ask in enumerate(people)]
[u.start() for u in users]
inbox = work / "data/inbox/bench"
inbox.mkdir(parents=True, exist_ok=True)
begun = start = time.time()
shutil.copy(work / "points.csv", inbox / ".points.csv")
os.rename(inbox / ".points.csv", inbox / "points.csv")
while (inbox / "points.csv").exists() and time.time() - begun < 600:
    time.sleep(0.2)
took = time.time() - begun
time.sleep(30)
over.set()
[u.join() for u in users]
print(f"taken in after {took:.0f} s; {refused} changes were told to come again, {wrong} other errors")
print(f"{'milliseconds':50s} median    95%  worst")
for name, t in times.items():
    t.sort()
    print(f"{name:50s} {statistics.median(t):6.0f} {t[int(len(t) * 0.95)]:6.0f} {t[-1]:6.0f}   of {len(t)} answers")
PY
