#!/usr/bin/env bash
# Remakes docs/screenshots from a fresh demo estate.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")"
. ./setup.sh
setup_build_tools
setup_test_tools
mvn -q -ntp -DskipTests -Dspotless.check.skip=true package -pl server -am
mvn -q -ntp -Dspotless.check.skip=true verify -pl e2e -De2e.groups=screenshots -De2e.excludedGroups=
