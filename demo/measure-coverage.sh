#!/usr/bin/env bash
# Runs the specs of the demo's firing board and stores the LCOV file that its runner writes. Needs the npm registry.
set -euo pipefail
here=$(cd "$(dirname "$0")" && pwd)
board="$here/kilnroom/packages/board"
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
cp -r "$board/." "$work"
rm -rf "$work/coverage" "$work/node_modules"
cd "$work"
npm install --no-audit --no-fund --ignore-scripts --loglevel=error
# The board's seeded specs are green; those that fail here are a fault of the demo.
npx --no-install vitest run --coverage
mkdir -p "$board/coverage"
cp coverage/lcov.info "$board/coverage/lcov.info"
