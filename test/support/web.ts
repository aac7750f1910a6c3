import { addressText, parseAddress } from '../../src/core/address/web-address.js';
import type { Hop, PageSeen, ReachFailure } from '../../src/core/badge/probe/evidence.js';
import { followVariant, type Looked, type VariantSeen } from '../../src/core/variants/follow.js';
import { frontDoorOf } from '../../src/core/variants/front-door.js';
import { judgeVariants, type Observation, type VariantsJudged } from '../../src/core/variants/judge.js';
import { readFace } from '../../src/core/variants/page-face.js';
import { isSameAddress, judgeSpelling, spellingsOf } from '../../src/core/variants/spelling.js';
import { variantsToTry, type ExtraHost } from '../../src/core/variants/to-try.js';
import { hop } from './evidence.js';

/** What answers at an address: where it redirects to, a page, a status, or why nothing does. */
export type Answer =
  | { readonly to: string; readonly status?: number; readonly headers?: Record<string, string> }
  | {
      readonly page: string;
      readonly headers?: Record<string, string>;
      readonly certificate?: Hop['certificate'];
    }
  | { readonly status: number }
  | { readonly fails: ReachFailure; readonly certificate?: Hop['certificate'] };

/** A web of a few addresses; whatever is not in it has a name that does not exist. */
export type Web = Readonly<Record<string, Answer>>;

const to = (url: string, status = 301): Answer => ({ to: url, status });
export const page = (words: string, head = ''): Answer => ({
  page: `<!doctype html><html><head><title>${words}</title>${head}</head><body><p>${words}</p></body></html>`,
});
export { to };

function hopAt(web: Web, url: string): { hop: Hop; text: string | null } {
  const answer = web[url] ?? { fails: 'name-missing' };
  const secure = url.startsWith('https:');
  const good = secure ? certificate(new URL(url).hostname) : null;
  if ('fails' in answer)
    return {
      hop: hop({
        url,
        status: null,
        failure: answer.fails,
        certificate: answer.certificate ?? null,
        address: null,
      }),
      text: null,
    };
  if ('to' in answer) {
    const { headers = {}, status = 301 } = answer;
    return {
      hop: hop({ url, status, location: new URL(answer.to, url).href, headers, certificate: good }),
      text: null,
    };
  }
  if ('page' in answer)
    return {
      hop: hop({ url, headers: answer.headers ?? {}, certificate: answer.certificate ?? good }),
      text: answer.page,
    };
  return { hop: hop({ url, status: answer.status, certificate: good }), text: 'no' };
}

export function certificate(
  host: string,
  validUntil = '2027-06-01T00:00:00.000Z',
): NonNullable<Hop['certificate']> {
  return {
    subject: host,
    issuer: 'Harbour Authority',
    names: [host],
    validFrom: '2026-01-01T00:00:00.000Z',
    validUntil,
  };
}

function looking(web: Web): (url: string) => Promise<Looked> {
  return (start) => {
    const hops: Hop[] = [];
    let url = start;
    for (;;) {
      if (hops.some((one) => one.url === url)) return Promise.resolve(without(hops, 'loop'));
      if (hops.length > 10) return Promise.resolve(without(hops, 'too-many-hops'));
      const { hop: next, text } = hopAt(web, url);
      hops.push(next);
      if (next.failure !== null) return Promise.resolve(without(hops, 'failed'));
      if (next.location === null) {
        const raw = Buffer.from(text ?? '');
        const body = { raw, charset: 'utf-8', bytes: raw.length, cut: false, mediaType: 'text/html' };
        return Promise.resolve({
          seen: { hops, end: 'answered', body },
          face: readFace(text ?? '', url, next.headers['link']),
        });
      }
      url = next.location;
    }
  };
}

/** What is seen of an address in a web. */
export function asksIn(web: Web): (url: string) => Promise<PageSeen> {
  const look = looking(web);
  return async (url) => (await look(url)).seen;
}

function without(hops: readonly Hop[], end: PageSeen['end']): Looked {
  return { seen: { hops, end, body: null }, face: null };
}

export interface Scene {
  readonly takenOn?: string;
  readonly former?: string;
  readonly hosts?: readonly ExtraHost[];
  readonly web: Web;
  readonly robots?: Observation['robots'];
  readonly sitemaps?: readonly string[];
}

export const NOW = new Date('2026-11-25T08:00:00Z');
export const AGENTS = [
  { title: 'Veldrane', agent: 'veldrane-reader' },
  { title: 'Brindle', agent: null },
];

/** Looks at a scene's web as the desk looks at the real one, and judges it. */
export async function judgeScene(scene: Scene): Promise<VariantsJudged> {
  const takenOn = parseAddress(scene.takenOn ?? 'https://quay.example/');
  const former = scene.former === undefined ? null : parseAddress(scene.former);
  const look = looking(scene.web);
  const seen = await Promise.all(
    variantsToTry(takenOn, former, scene.hosts ?? []).map((one) => followVariant(one, look)),
  );
  const door = frontDoorOf(takenOn, former, seen);
  const address = door.kind === 'found' ? door.address : null;
  const spellings = address
    ? await Promise.all(
        spellingsOf(address).map(async (one) =>
          judgeSpelling(
            one,
            address,
            isSameAddress(one, address) ? null : await look(one.url),
            await look(addressText(address)),
          ),
        ),
      )
    : [];
  return judgeVariants({
    takenOn,
    former,
    seen,
    spellings,
    robots: scene.robots ?? null,
    sitemaps: scene.sitemaps ?? [],
    agents: AGENTS,
    now: NOW,
  });
}

/** A variant that answers by itself, with what a case says otherwise. */
export function variantSeen(address: string, more: Partial<VariantSeen> = {}): VariantSeen {
  return {
    address,
    why: 'usual',
    steps: [],
    end: 'page',
    endsAt: address,
    status: 200,
    failure: null,
    detail: null,
    dialled: '192.0.2.1',
    certificate: null,
    hsts: null,
    robotsHeader: null,
    page: null,
    ...more,
  };
}
