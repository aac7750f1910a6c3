import { TargetFault, temporaryNames } from './file-target.js';

/** What a server can be asked to do with names, by whole paths there. Each throws where the server refuses or cannot be reached. */
export interface Names {
  move(from: string, to: string): Promise<void>;
  remove(place: string): Promise<void>;
  /** Whether anything stands there. */
  isThere(place: string): Promise<boolean>;
  /** Whether a fault is the server’s refusal, after which it still listens. */
  isRefusal(error: unknown): boolean;
}

/** Under which names a file may be kept while another takes its place on a server that does not rename over what is there. */
export function asideNames(place: string, nonce: string): readonly string[] {
  return temporaryNames(place, `${nonce}-before`);
}

/**
 * Writes a file beside its place, under the first name that the server takes. What is half written is taken away.
 * @returns the name
 * @throws what the server says of the first
 */
export async function writtenBeside(
  names: Names,
  place: string,
  nonce: string,
  write: (part: string) => Promise<void>,
): Promise<string> {
  let first: unknown;
  for (const part of temporaryNames(place, nonce))
    try {
      await write(part);
      return part;
    } catch (error) {
      await names.remove(part).catch(() => undefined);
      if (!names.isRefusal(error)) throw error;
      first ??= error;
    }
  throw first;
}

/**
 * Puts a written file in its place. Where the server does not rename over what is there, that is moved aside, and back again should the
 * other not take its place: at no moment is there neither. A server that renames nothing keeps what it has.
 * @throws CarryFault where the server refuses
 */
export async function exchange(names: Names, part: string, place: string, nonce: string): Promise<void> {
  const direct = await refusalOf(names, () => names.move(part, place));
  if (direct === null) return;
  if (!(await names.isThere(place)))
    throw new TargetFault(
      'refused',
      `The server lets nothing be renamed, so “${place}” cannot be written whole: it says “${direct}”. Nothing was put there.`,
    );
  const aside = await movedAside(names, place, nonce);
  const put = await refusalOf(names, () => names.move(part, place));
  if (put === null) {
    await refusalOf(names, () => names.remove(aside));
    return;
  }
  const back = await refusalOf(names, () => names.move(aside, place));
  throw new TargetFault(
    'refused',
    back === null
      ? `“${place}” could not be replaced: the server says “${put}”. What stood there stands there again.`
      : `“${place}” could not be replaced, and what stood there is now “${aside}”: please give it its name back. The server says “${back}”.`,
  );
}

/** @returns the name under which it is now */
async function movedAside(names: Names, place: string, nonce: string): Promise<string> {
  let says: string | null = null;
  for (const aside of asideNames(place, nonce)) {
    const refusal = await refusalOf(names, () => names.move(place, aside));
    if (refusal === null) return aside;
    says ??= refusal;
  }
  throw new TargetFault(
    'refused',
    `The server lets “${place}” not be replaced: it says “${says ?? ''}”. What stands there was left as it is.`,
  );
}

/**
 * Ends what was cut off in the midst of an exchange: what was moved aside is put back where nothing stands, and what was only half written
 * is taken away.
 */
export async function settle(names: Names, place: string, nonce: string): Promise<void> {
  for (const aside of asideNames(place, nonce))
    if (await names.isThere(aside))
      await refusalOf(names, async () =>
        (await names.isThere(place)) ? names.remove(aside) : names.move(aside, place),
      );
  for (const part of temporaryNames(place, nonce))
    if (await names.isThere(part)) await refusalOf(names, () => names.remove(part));
}

/** What the server says against it; null where it does it. Whatever else fails is thrown. */
async function refusalOf(names: Names, work: () => Promise<unknown>): Promise<string | null> {
  try {
    await work();
    return null;
  } catch (error) {
    if (!names.isRefusal(error)) throw error;
    return (error instanceof Error ? error.message : String(error)).slice(0, 300);
  }
}
