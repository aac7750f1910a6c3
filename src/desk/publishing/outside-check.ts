import { gunzipSync } from 'node:zlib';
import { addressText } from '../../core/address/web-address.js';
import type { PublishStep } from '../../core/publish/plan.js';
import { readBody } from '../../net/http/body.js';
import { MOST_BYTES } from '../../net/targets/file-target.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { frontDoorOf } from '../context/front-door.js';
import type { Desk } from '../context/desk.js';
import { checksum } from '../context/checksum.js';

/** Files that are asked for from outside, of a sitemap in hundreds of them. */
const MOST_LOOKED_AT = 20;
const MOST_TOLD = 3;

/** Whether files that stand at a target are what everybody gets who asks the website for them. */
export interface OutsideCheck {
  readonly says: string;
  readonly stops: boolean;
}

/**
 * Asks the website for files that were put in its web root, or stood there already, past the caches on the way: the folder may not be the
 * one that it serves, and a file may be kept from everybody.
 * @param steps those that matter most first: of many the others are not looked at
 */
export async function checkOutside(
  desk: Desk,
  property: PropertyRow,
  steps: readonly PublishStep[],
): Promise<OutsideCheck> {
  if (steps.length === 0) return { says: '', stops: false };
  const looked = steps.slice(0, MOST_LOOKED_AT);
  const faults: string[] = [];
  for (const { name, sum } of looked) {
    const url = new URL(name, addressText(frontDoorOf(property))).href;
    const fault = await faultOf(desk, url, sum);
    if (fault !== null) faults.push(`${url} ${fault}`);
  }
  if (faults.length === 0) return { says: saysSeen(looked.length, steps.length), stops: false };
  const more = faults.length > MOST_TOLD ? ` And ${String(faults.length - MOST_TOLD)} more.` : '';
  return {
    says: `Not seen from outside: ${faults.slice(0, MOST_TOLD).join('; ')}.${more} Check that the web server serves this very folder, and that it may read the files.`,
    stops: true,
  };
}

function saysSeen(looked: number, all: number): string {
  if (all === 1) return 'It is seen from outside.';
  return looked === all
    ? 'They are seen from outside.'
    : `${String(looked)} of the ${String(all)} files were asked for from outside, and are seen there.`;
}

/** What is wrong with what the website answers; null where it is the file. */
async function faultOf(desk: Desk, url: string, sum: string): Promise<string | null> {
  const { hops, body } = await desk.net.stream(
    url,
    (source, headers) => readBody(source, headers, MOST_BYTES),
    'past-caches',
  );
  const last = hops.at(-1);
  if (last?.status == null) return 'does not answer';
  if (last.status !== 200 || body === null) return `answers with status ${String(last.status)}`;
  return isSame(Buffer.from(body.raw), sum) ? null : 'answers with something else';
}

/** What is packed is told by its text, and may come unpacked already. */
function isSame(raw: Buffer, sum: string): boolean {
  const text = sum.replace(/^gz /u, '');
  if (checksum(raw) === text) return true;
  if (text === sum) return false;
  try {
    return checksum(gunzipSync(raw, { maxOutputLength: MOST_BYTES })) === text;
  } catch {
    return false;
  }
}
