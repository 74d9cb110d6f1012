#!/usr/bin/env bash
# One loss, and all singles and pairs of 20 stores, of an estate of made-up facts. There is no general-purpose peer.
# usage: survival.sh [WORKLOADS [ROUNDS]]      (defaults: 10000 6)
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
mvn -q -o -ntp compile -pl core -Dspotless.check.skip=true > /dev/null
libraries=$(find ~/.m2/repository/org/apache/commons/commons-statistics-distribution ~/.m2/repository/org/apache/commons/commons-numbers-* ~/.m2/repository/org/jspecify -name '*.jar' | tr '\n' ':')
# The collector that the product is run with.
java -XX:+UseSerialGC -cp "core/target/classes:$libraries" bench/SurvivalOf.java "${@}"
