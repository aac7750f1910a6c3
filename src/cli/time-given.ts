import { dayTyped, isRelative } from '../api/day-typed.js';
import type { Context } from './context.js';
import { Usage } from './exit.js';

/**
 * A day or a time as it is typed, in the form of the API. What goes by today, such as “tomorrow”, goes by the service’s clock.
 * @throws Usage on what is none, as a day that the calendar does not have
 */
export async function timeGiven({ client }: Pick<Context, 'client'>, text: string): Promise<string> {
  const now = isRelative(text) ? new Date((await client.whoAmI()).now) : new Date(0);
  const time = dayTyped(text, now);
  if (time === null)
    throw new Usage(
      `“${text}” is no day; expected such as 2026-11-24, 24.11.2026, tomorrow, next monday or 2026-11-24T09:30:00Z.`,
    );
  return time.toISOString();
}
