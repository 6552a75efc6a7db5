#!/usr/bin/env bash
# The workbench's page in a browser: check.sh PROGRAM SOURCE WORK. Skipped (77) where there is no browser.
set -euo pipefail
program=$1 source=$2 work=$3
command -v chromium >/dev/null || command -v chromium-browser >/dev/null || exit 77
command -v npm >/dev/null || exit 77
mkdir -p "$work"
cp "$source"/tests/page/*.mjs "$source"/tests/page/*.json "$work"
cd "$work"
# With retries: a registry that is asked often may refuse now and then.
for attempt in 1 2 3; do
    npm ci --no-audit --no-fund --loglevel=error && break
    [ "$attempt" -lt 3 ] || exit 1
    sleep $((attempt * 5))
done
ARVEK=$program ARVEK_SOURCE=$source node --test workbench.test.mjs
