#!/usr/bin/env node
import { readFileSync } from 'node:fs';

/** The version is told without loading the program: it is asked for by scripts, often. */
if (process.argv.length === 3 && (process.argv[2] === '--version' || process.argv[2] === '-V')) {
  const data = JSON.parse(readFileSync(new URL('../../package.json', import.meta.url), 'utf8')) as {
    version: string;
  };
  process.stdout.write(`${data.version}\n`);
} else {
  const { run } = await import('./program.js');
  await run(process.argv);
}
