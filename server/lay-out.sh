#!/usr/bin/env bash
# Lays target/hard-proof.jar out in target/app so that it starts fast: libraries side by side, SQLite's
# native library taken out, and the classes that a start needs in an archive of this Java.
# usage: lay-out.sh JAVA
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/target"
app=$PWD/app
java=$(command -v "$1")
rm -rf app app.training
"$java" -Djarmode=tools -jar hard-proof.jar extract --destination app > /dev/null
# The driver would otherwise take it out anew at every start.
native=org/sqlite/native/$(uname -s)/$(uname -m)
case $(uname -m) in arm64) native=org/sqlite/native/$(uname -s)/aarch64 ;; esac
(cd app && "$(dirname "$java")/jar" xf lib/sqlite-jdbc-*.jar "$native" && mv "$native" native) 2> /dev/null || true
rm -rf app/org
if ! "$java" -XX:+UseSerialGC -Dorg.sqlite.lib.path="$app/native" -Dspring.context.exit=onRefresh \
    -XX:ArchiveClassesAtExit="$app/classes.jsa" -jar "$app/hard-proof.jar" \
    serve --data app.training --port 0 > app.training.log 2>&1 || [ ! -s app/classes.jsa ]; then
  echo "lay-out.sh: no archive of classes could be made, so starting takes longer:" >&2
  tail -3 app.training.log >&2
  rm -f app/classes.jsa
fi
rm -rf app.training app.training.log
