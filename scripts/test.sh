#!/bin/sh
# Runs every test, then says in one plain line how many passed and failed.
set -u
mkdir -p .tmp
npx vitest run --reporter=default --reporter=json --outputFile.json=.tmp/vitest.json
status=$?
node -e '
  const { numPassedTests, numFailedTests } = JSON.parse(require("fs").readFileSync(".tmp/vitest.json", "utf8"));
  console.log(`${numPassedTests} passed, ${numFailedTests} failed`);
' | tee .tmp/counts
exit $status
