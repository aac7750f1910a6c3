import { pino, type Logger } from 'pino';
import type { Settings } from './settings/schema.js';

/** Milliseconds for which nothing more is written once a line could not be. */
const QUIET_MS = 5_000;
const STDOUT = 1;

/**
 * The service's own log, a JSON line each on standard output. A line that cannot be written (a full disk, a reader that has gone) is lost
 * and no fault of the service's: else that fault would be the next line, and so on without end.
 */
export function openLog(level: Settings['log']): Logger {
  const destination = pino.destination({ fd: STDOUT, sync: true });
  const write = destination.write.bind(destination);
  let quietUntil = -Infinity;
  destination.on('error', () => {
    quietUntil = performance.now() + QUIET_MS;
  });
  destination.write = (line) => performance.now() < quietUntil || write(line);
  return pino({ level, redact: ['req.headers.authorization', 'req.headers.cookie'] }, destination);
}
