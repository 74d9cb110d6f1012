#!/usr/bin/env bash
# All benchmarks, one after another. Needs some 6 GB of free space in TMPDIR. Never part of the tests.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")"
./read-through.sh "${1:-5}"
./restore.sh "${1:-5}"
./facts.sh
./recipe.sh
./evaluation.sh
./screens.sh
./planning.sh
./importing.sh
