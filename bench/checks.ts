import { fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { parseScope } from '../src/core/address/reach.js';
import { placementOf, type Placement } from '../src/core/badge/placement.js';
import { veldrane } from '../test/support/profiles.js';
import { startQuay } from './start-quay.js';

const TOKEN = '84da61f31aa466b6b1022a45';

export interface ChecksMeasured {
  /** Checks a second over bare fetches and parses a second. */
  readonly speed: number;
  readonly checksASecond: number;
  /** Live memory after 10,000 checks over that after 1,000. */
  readonly memory: number;
}

/** Our check of a meta tag, turn by turn with a bare loop that fetches the same page and parses it, both compiled as they are installed. */
export async function measureChecks(): Promise<ChecksMeasured> {
  const { quay, end } = await startQuay();
  const placements = quay.hosts.flatMap((host): Placement[] => {
    const found = placementOf(veldrane, parseScope('address', `http://${host}/`), 'meta', TOKEN);
    return found ? [found] : [];
  });
  const loop = fork(fileURLToPath(new URL('checks-loop.js', import.meta.url)), { execArgv: [] });
  try {
    return await new Promise<ChecksMeasured>((done, fail) => {
      loop.once('message', (measured) => {
        done(measured as ChecksMeasured);
      });
      loop.once('exit', (status) => {
        fail(new Error(`the loop ended with ${String(status)}`));
      });
      loop.send({ ...quay, placements });
    });
  } finally {
    end();
  }
}
