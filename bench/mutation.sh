#!/bin/bash
# Changes the core by mutation and counts the changes that no test notices (docs/testing.md).
#
#   bench/mutation.sh PACKAGES [THREADS]     e.g. points,copies,retention 2
#
# Works on a copy in which record components are not called @Nullable: the JVM can't put a record whose components
# carry type annotations in place of itself twice (it crashes), and PIT would call every such change noticed.
# The property tests that judge hundreds of estates stay away: with them it takes hours.
set -euo pipefail
cd "$(dirname "$0")/.."
packages=${1:?"packages of the core, e.g. points,copies,retention"}
threads=${2:-2}
copy=$(mktemp -d)
trap 'rm -rf "$copy"' EXIT
cp -r --parents pom.xml */pom.xml docs core/src "$copy"/
find "$copy"/core/src/main -name '*.java' -exec sed -i 's/@Nullable //g' {} +
targets=$(sed -E 's/([a-z]+)/hardproof.core.\1.*/g' <<< "$packages")
slow='hardproof.core.ArchitectureTest,hardproof.core.WallsTest*,hardproof.core.RecipesTest'
slow+=',hardproof.core.*EvaluationPropertiesTest,hardproof.core.*HindsightTest'
cd "$copy"
mvn -q -ntp ${MAVEN_OPTIONS:-} test-compile -pl core -Dspotless.check.skip=true
mvn -ntp ${MAVEN_OPTIONS:-} org.pitest:pitest-maven:mutationCoverage -pl core -Pmutation \
  -DtargetClasses="$targets" -Dthreads="$threads" -DexcludedTestClasses="$slow"
cd - > /dev/null
mkdir -p target
cp "$copy"/core/target/pit-reports/mutations.xml "target/mutations-$packages.xml"
python3 - "target/mutations-$packages.xml" <<'PY'
import collections, re, sys
import xml.etree.ElementTree as tree
text = re.sub(r"&#[0-9]+;", "?", open(sys.argv[1]).read())
all = list(tree.fromstring(text))
print(collections.Counter(m.get("status") for m in all))
for m in all:
    if m.get("status") not in ("KILLED", "TIMED_OUT", "MEMORY_ERROR"):
        print(m.get("status"), m.findtext("mutatedClass") + ":" + m.findtext("lineNumber"),
              m.findtext("mutatedMethod"), "|", m.findtext("description"))
PY
