#!/usr/bin/env bash
# Remakes docs/screenshots from a fresh demo estate.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")"
. ./setup.sh
setup_build_tools
setup_test_tools
# One run for all modules; -Dtest names no unit test, so that only the pictures are made.
mvn -q -ntp verify -pl e2e -am -Dtest=NoUnitTest -Dsurefire.failIfNoSpecifiedTests=false \
  -Dspotless.check.skip=true -Dweb.checks.skip=true -De2e.groups=screenshots -De2e.excludedGroups=
