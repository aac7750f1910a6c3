#!/usr/bin/env node
import { readFileSync } from 'node:fs';

// Whoever reads us may have seen enough (`| head`): then there is nobody left to tell, and no fault to report.
let isTold = false;
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit();
  // What is lost is told once: a service goes on, and a command ends as one that did not do all that it should.
  process.exitCode = 1;
  if (!isTold) process.stderr.write(`yardbadge: What was said could not be written: ${error.message}\n`);
  isTold = true;
});

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
