#!/usr/bin/env bash
# Builds and tests everything: unit, integration and, in headless Chromium, end to end.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")"
. ./setup.sh
setup_build_tools
setup_test_tools
exec mvn -B -ntp clean verify "$@"
