#!/usr/bin/env bash
# Builds and tests everything: unit, integration and, in headless Chromium, end to end.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")"
# As a service or a container starts things: nothing may depend on the locale.
export LC_ALL=C
. ./setup.sh
setup_build_tools
setup_test_tools
exec mvn -B -ntp clean verify "$@"
