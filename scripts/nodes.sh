#!/bin/sh
# Core, service and command line on every version of Node.js that is promised: each comes from the registry's package “node”.
# Usage: nodes.sh [FILES…]   VERSIONS="20 22 24" for others
set -u
[ $# -gt 0 ] || set -- test/core test/service test/cli
bad=0
for version in ${VERSIONS:-20 22 24}; do
  folder=.tmp/node-$version
  if [ ! -x "$folder/node_modules/node/bin/node" ]; then
    mkdir -p "$folder"
    npm install --prefix "$folder" --no-save --no-audit --no-fund --silent "node@$version" >/dev/null 2>&1 || { echo "node $version: could not be installed"; bad=$((bad + 1)); continue; }
  fi
  node="$(cd "$folder/node_modules/node/bin" && pwd)/node"
  if NO_COLOR=1 PATH="$(dirname "$node"):$PATH" "$node" node_modules/vitest/vitest.mjs run --reporter=default "$@" >".tmp/node-$version.log" 2>&1; then
    echo "node $("$node" --version): $(grep -E '^ *Tests ' ".tmp/node-$version.log" | tr -s ' ')"
  else
    bad=$((bad + 1))
    echo "node $("$node" --version): red"; grep -m5 -E 'FAIL|Error' ".tmp/node-$version.log" | cut -c1-160
  fi
done
[ "$bad" = 0 ]
