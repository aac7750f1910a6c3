import { textOf } from '../../core/html/body-text.js';
import { MOST_ROBOTS } from '../../core/robots/robots.js';
import type { PageSeen } from '../../core/badge/probe/evidence.js';
import type { EngineAgent, RobotsSeen } from '../../core/variants/keeping-out.js';
import type { Desk } from './desk.js';
import { checksum } from './checksum.js';

/** The robots.txt beside an address. @param ask fetches a page @returns with it the SHA-256 of its bytes, where one stands there */
export async function robotsAt(
  ask: (url: string) => Promise<PageSeen>,
  beside: string,
): Promise<RobotsSeen & { stands: string | null }> {
  const url = new URL('/robots.txt', beside).href;
  const seen = await ask(url);
  const status = seen.end === 'answered' ? (seen.hops.at(-1)?.status ?? null) : null;
  return {
    url,
    status,
    text: seen.body ? textOf(seen.body).slice(0, MOST_ROBOTS) : '',
    stands: status === 200 && seen.body?.cut === false ? checksum(seen.body.raw) : null,
  };
}

/** The engines by the names of their fetchers; the house only looks for its own token. */
export function agentsOf(desk: Desk): EngineAgent[] {
  return [...desk.book.profiles.values()]
    .filter(({ worked }) => worked.how !== 'house')
    .map(({ title, agent }) => ({ title, agent: agent ?? null }));
}
