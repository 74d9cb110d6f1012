#!/usr/bin/env bash
# Builds Hard Proof and starts it with the demo estate.
#
#   ./demo.sh [--port N] [--data DIR] [--fresh] [--pace 1h=2s]
#
#   --port N    where the page is, http://localhost:N; 8080 where nothing is said
#   --data DIR  where the estate is kept; data/demo where nothing is said
#   --fresh     makes the estate anew; without it a second start goes on with what is there
#   --pace P    lets the demo's clock run fast, so that weeks pass while you watch: 1h=2s, any other
#
# Sign in with one click on a name; the password of all of them is "demo".
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")"
port=8080 data=data/demo fresh= pace=()
while [ $# -gt 0 ]; do
  case $1 in
    --port) port=${2:?--port needs a number}; shift 2 ;;
    --data) data=${2:?--data needs a folder}; shift 2 ;;
    --fresh) fresh=1; shift ;;
    --pace) pace=(--pace "${2:?--pace needs something like 1h=2s}"); shift 2 ;;
    -h | --help) sed -n '2,/^set/p' "$0" | grep '^#' | cut -c3-; exit 0 ;;
    *) echo "demo.sh: '$1' is no option; --help lists them" >&2; exit 2 ;;
  esac
done
# Before anything is built: a build would pull the program away from under a demo that still runs.
if (exec 3<> "/dev/tcp/127.0.0.1/$port") 2> /dev/null; then
  echo "demo.sh: port $port is in use. Is the demo running already, at http://localhost:$port?" >&2
  echo "Stop it first, or choose another port with --port and another folder with --data." >&2
  exit 2
fi
. ./setup.sh
setup_build_tools
echo "Building …"
mvn -q -ntp -DskipTests -Dspotless.check.skip=true -Dweb.checks.skip=true package -pl server -am
if [ -n "$fresh" ]; then
  # Only a folder that the demo made is removed.
  if [ -e "$data" ] && [ ! -e "$data/demo" ]; then
    echo "demo.sh: $data holds no demo estate, so it is not removed; choose another folder." >&2
    exit 2
  fi
  rm -rf "$data"
fi
exec ./hard-proof serve --demo --port "$port" --data "$data" "${pace[@]}"
