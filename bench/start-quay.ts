import { fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';

/** Where the websites and their names answer. */
export interface Quay {
  readonly http: number;
  readonly dns: number;
  readonly hosts: readonly string[];
}

/** Starts the process that answers for the websites. @param properties of `makeAgency`, or none for a few with one tag */
export async function startQuay(properties?: number): Promise<{ quay: Quay; end: () => void }> {
  const args = properties === undefined ? [] : [String(properties)];
  const child = fork(fileURLToPath(new URL('quay.ts', import.meta.url)), args, {
    execArgv: ['--import', 'tsx'],
  });
  const quay = await new Promise<Quay>((done) =>
    child.once('message', (message) => {
      done(message as Quay);
    }),
  );
  return {
    quay,
    end: () => {
      child.disconnect();
    },
  };
}
