#!/bin/sh
# The tests are green on any day: runs them under Debian's faketime at awkward instants, over which every weekday comes up.
# Usage: any-day.sh [--one] [FILES…]   --one: a single instant, another each day; FILES: in place of everything but the console.
set -u
command -v faketime >/dev/null 2>&1 || { echo "faketime is missing: sh scripts/need.sh installs it" >&2; exit 1; }
# UTC. Monday, Tuesday (29 February), Wednesday, Thursday (New Year's Eve), Friday, Saturday; a Sunday with a change to summer time.
days="2026-11-30 23:40:00|2028-02-29 12:00:00|2027-06-30 00:00:30|2026-12-31 23:59:00|2027-01-01 00:01:00|2027-10-30 23:59:30|2027-03-28 00:59:00"
if [ "${1:-}" = --one ]; then
  shift
  at=$(( $(date +%j | sed 's/^0*//') % 7 + 1 ))
  days=$(echo "$days" | cut -d'|' -f"$at")
fi
[ $# -gt 0 ] || set -- test/core test/service test/net test/engines test/store test/agreement test/real test/cli
bad=0 count=0
mkdir -p .tmp
rest=$days
while [ -n "$rest" ]; do
  day=${rest%%|*}
  case $rest in *"|"*) rest=${rest#*|} ;; *) rest= ;; esac
  count=$((count + 1))
  # Only what day it is is changed: time that is waited goes on as it does.
  if NO_COLOR=1 TZ=${ANY_DAY_ZONE:-UTC} FAKETIME_DONT_FAKE_MONOTONIC=1 faketime "$day" npx vitest run --reporter=default "$@" >.tmp/any-day.log 2>&1; then
    echo "$day: $(grep -E '^ *Tests ' .tmp/any-day.log | tr -s ' ')"
  else
    bad=$((bad + 1))
    echo "$day: red"; grep -m5 -E 'FAIL|Error' .tmp/any-day.log | cut -c1-160
  fi
done
echo "$bad of $count days red"
[ "$bad" = 0 ]
