#!/usr/bin/env bash
# Reading whole from an object store and from a host with SFTP, beside curl and sftp from the same servers.
# usage: stores.sh [MIB [ROUNDS]]      (defaults: 512 5)
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
mvn -q -o -ntp compile -pl standins -am -Dspotless.check.skip=true > /dev/null
libraries=$(find server/target/app/lib -name '*.jar' 2>/dev/null | tr '\n' ':')
[ -n "$libraries" ] || { echo "Build the server first: its libraries are taken from there." >&2; exit 2; }
java -Xmx128m -XX:+UseSerialGC -cp "core/target/classes:proving/target/classes:standins/target/classes:$libraries" bench/StoreReading.java "${@}"
