import { Problem } from '../api/problems.js';
import type { Outcome } from '../engines/engine.js';

/** The value of an engine's answer, or the problem that tells what stood in the way: its own no, a wait, or no answer. */
export function engineValue<T>(outcome: Outcome<T>): T {
  switch (outcome.kind) {
    case 'done':
      return outcome.value;
    case 'refused':
      throw new Problem('engine-refused', outcome.says);
    case 'wait':
      throw new Problem('engine-waits', waitSays(outcome));
    case 'unreached':
      throw new Problem('engine-unreached', `${outcome.says} Nothing is lost: try again later.`);
  }
}

export function waitSays(outcome: Extract<Outcome<unknown>, { kind: 'wait' }>): string {
  return outcome.until === null
    ? `${outcome.says} Try again later.`
    : `${outcome.says} Not before ${outcome.until.toISOString()}.`;
}
