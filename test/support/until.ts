import { setTimeout as sleep } from 'node:timers/promises';

/** Waits until something is so, as what goes on by itself will have it before long. */
export async function until<T>(look: () => Promise<T>, isSo: (seen: T) => boolean, seconds = 90): Promise<T> {
  for (let tries = seconds * 20; ; tries -= 1) {
    const seen = await look();
    if (isSo(seen)) return seen;
    if (tries === 0) throw new Error(`it did not come about: ${JSON.stringify(seen).slice(0, 2_000)}`);
    await sleep(50);
  }
}
