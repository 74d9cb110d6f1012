#!/usr/bin/env bash
# Builds and tests everything: unit, integration and, in headless Chromium, end to end.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")"
# As a service or a container starts things: nothing may depend on the locale.
export LC_ALL=C
. ./setup.sh
setup_build_tools
setup_test_tools
# One module alone: ./test.sh core. Those that it needs are built, not tested.
case ${1:-} in
  core | proving | standins | server)
    module=$1; shift
    set -- -pl "$module" -am "-Dtest=hardproof.$module.**" -Dsurefire.failIfNoSpecifiedTests=false "$@" ;;
  web) shift; set -- -pl web "$@" ;;
  e2e) shift; set -- -pl e2e -am -Dtest=NoUnitTest -Dsurefire.failIfNoSpecifiedTests=false "$@" ;;
esac
exec mvn -B -ntp clean verify "$@"
