#!/usr/bin/env bash
# Lays target/hard-proof.jar out in target/app so that it starts fast: libraries side by side, SQLite's
# native library taken out, and the classes that a start and a first visit need in an archive of this Java.
# usage: lay-out.sh JAVA
set -euo pipefail
here=$(cd "$(dirname "${BASH_SOURCE[0]}")" && pwd)
cd "$here/target"
app=$PWD/app
java=$(command -v "$1")
rm -rf app app.training
"$java" -Djarmode=tools -jar hard-proof.jar extract --destination app > /dev/null
# The driver would otherwise take it out anew at every start.
native=org/sqlite/native/$(uname -s)/$(uname -m)
case $(uname -m) in arm64) native=org/sqlite/native/$(uname -s)/aarch64 ;; esac
(cd app && "$(dirname "$java")/jar" xf lib/sqlite-jdbc-*.jar "$native" && mv "$native" native) 2> /dev/null || true
rm -rf app/org
# One workload, so that evaluating it is part of the first visit.
mkdir app.training
now=$(date -u +%Y-%m-%dT%H:%M:%SZ)
printf 'key,name,tier\nw,W,1\n' > app.training/workloads.csv
printf 'key,name,kind,workload\nr,R,database,w\n' > app.training/resources.csv
printf 'key,resource,form,data_time,available,outcome,size\np,r,full,%s,%s,complete,1\n' "$now" "$now" > app.training/points.csv
run=("$java" -XX:+UseSerialGC "-Dorg.sqlite.lib.path=$app/native")
if ! "${run[@]}" -jar "$app/hard-proof.jar" import --data app.training/data --feed first app.training > app.training.log 2>&1 ||
  ! "$java" "$here/FirstVisit.java" "${run[@]}" -XX:ArchiveClassesAtExit="$app/classes.jsa" -jar "$app/hard-proof.jar" \
    serve --data app.training/data --port 0 > app.training.log 2>&1 || [ ! -s app/classes.jsa ]; then
  echo "lay-out.sh: no archive of classes could be made, so starting takes longer:" >&2
  tail -3 app.training.log >&2
  rm -f app/classes.jsa
fi
rm -rf app.training app.training.log
