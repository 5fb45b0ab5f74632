#!/usr/bin/env bash
# usage: screenshot.sh OUT.png COMMAND...: runs a command in an xterm of about 1280x800 and stores a picture of it.
# Needs xvfb, xterm, imagemagick and fonts-dejavu.
set -euo pipefail
out=$1; shift
display=":$((RANDOM % 500 + 100))"
Xvfb "$display" -screen 0 1280x800x24 >/dev/null 2>&1 &
server=$!
trap 'kill "$server" 2>/dev/null' EXIT
sleep 1
export DISPLAY=$display
xterm -fa 'DejaVu Sans Mono' -fs 10 -geometry 156x49+0+0 -bg '#16181d' -fg '#d8dbe0' -e bash -c "$*; sleep 6" &
sleep 4.5
import -window root "$out"
