#!/usr/bin/env bash
# Runs a program of the window on a screen of its own:  on_own_screen.sh PROGRAM [ARGUMENTS]
# PUNCHBIT_SCREEN=shared leaves it on the one that is there, to be watched.
set -euo pipefail
for argument; do
  if [ "$argument" = --gtest_list_tests ]; then exec "$@"; fi
done
if [ "${PUNCHBIT_SCREEN:-}" = shared ]; then exec "$@"; fi
# The server says by itself which number it took; nothing has to be guessed, and no two take the same one. Two that start
# in the same moment may still trip over each other's lock: the one that ended is started again.
number=$(mktemp)
server=
trap 'kill $server 2>/dev/null; wait $server 2>/dev/null || true; rm -f "$number"' EXIT
for _ in 1 2 3; do
  Xvfb -displayfd 3 -screen 0 1920x1080x24 -nolisten tcp 3>"$number" >/dev/null 2>&1 &
  server=$!
  for _ in $(seq 400); do
    if [ -s "$number" ] || ! kill -0 $server 2>/dev/null; then break; fi
    sleep 0.05
  done
  if [ -s "$number" ]; then break; fi
done
if [ ! -s "$number" ]; then echo "no virtual screen could be started (package xvfb)" >&2; exit 1; fi
DISPLAY=":$(cat "$number")" QT_QPA_PLATFORM=xcb "$@"
