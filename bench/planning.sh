#!/usr/bin/env bash
# The coming 90 nights and the plan of an estate of made-up facts. There is no general-purpose peer for either.
# usage: planning.sh [RESOURCES [ROUNDS]]      (defaults: 10000 5)
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
mvn -q -o -ntp compile -pl core -Dspotless.check.skip=true > /dev/null
libraries=$(find ~/.m2/repository/org/apache/commons/commons-statistics-distribution ~/.m2/repository/org/apache/commons/commons-numbers-* ~/.m2/repository/org/jspecify -name '*.jar' | tr '\n' ':')
# The collector and the heap that the product is run with.
java -XX:+UseSerialGC -cp "core/target/classes:$libraries" bench/Planning.java "${@}"
