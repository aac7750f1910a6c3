import { addressText } from '../address/web-address.js';
import type { CertificateSeen, PageSeen, ReachFailure } from '../badge/probe/evidence.js';
import { MAX_HOPS } from '../badge/judge/reach.js';
import type { PageFace } from './page-face.js';
import type { ToTry, VariantWhy } from './to-try.js';

/** How one address leads to the next: by a redirect that says so for good or for now, by the page, or by its script. */
export const WAYS = ['permanent', 'temporary', 'refresh', 'script'] as const;
export type StepKind = (typeof WAYS)[number];

export interface VariantStep {
  readonly url: string;
  readonly to: string;
  readonly kind: StepKind;
  readonly status: number | null;
}

/** Everything seen of one variant, from asking for its address to where that ends. */
export interface VariantSeen {
  readonly address: string;
  readonly why: VariantWhy;
  readonly steps: readonly VariantStep[];
  readonly end: 'page' | 'failed' | 'loop' | 'too-many-hops';
  readonly endsAt: string;
  readonly status: number | null;
  readonly failure: ReachFailure | null;
  readonly detail: string | null;
  /** The IP address that was dialled for the variant itself. */
  readonly dialled: string | null;
  /** The certificate that the variant itself showed. */
  readonly certificate: CertificateSeen | null;
  /** Headers of the variant's own answer, whether page or redirect. */
  readonly hsts: string | null;
  /** X-Robots-Tag of the page at the end. */
  readonly robotsHeader: string | null;
  readonly page: PageFace | null;
}

/** One look at an address, redirects followed, with the page at its end read. */
export interface Looked {
  readonly seen: PageSeen;
  readonly face: PageFace | null;
}

/** Redirects that say that they are for good (RFC 9110 §15.4.2, §15.4.9). */
const FOR_GOOD = new Set([301, 308]);

/**
 * Follows one variant to where it ends, over redirects and over pages that send their visitors on.
 * @param look asks for one address and follows its redirects; nothing is asked twice here
 */
export async function followVariant(
  { address, why }: ToTry,
  look: (url: string) => Promise<Looked>,
): Promise<VariantSeen> {
  const start = addressText(address);
  const steps: VariantStep[] = [];
  let url = start;
  let first: Looked | null = null;
  for (;;) {
    const looked = await look(url);
    first ??= looked;
    steps.push(...stepsOf(looked.seen));
    const { face } = looked;
    const to = face?.sentOn ?? null;
    const at = looked.seen.hops.at(-1)?.url ?? url;
    if (!to || steps.length > MAX_HOPS) return ended(start, why, steps, first, looked);
    if (to.url === start || steps.some((step) => step.url === to.url)) {
      steps.push({ url: at, to: to.url, kind: to.kind, status: 200 });
      return { ...ended(start, why, steps, first, looked), end: 'loop', endsAt: to.url, page: null };
    }
    steps.push({ url: at, to: to.url, kind: to.kind, status: 200 });
    url = to.url;
  }
}

function stepsOf({ hops }: PageSeen): VariantStep[] {
  return hops.flatMap(({ url, location, status }) =>
    location === null
      ? []
      : [
          {
            url,
            to: location,
            kind: status !== null && FOR_GOOD.has(status) ? ('permanent' as const) : ('temporary' as const),
            status,
          },
        ],
  );
}

function ended(
  start: string,
  why: VariantWhy,
  steps: readonly VariantStep[],
  first: Looked,
  { seen, face }: Looked,
): VariantSeen {
  const own = first.seen.hops[0];
  const last = seen.hops.at(-1);
  return {
    address: start,
    why,
    steps,
    end: seen.end === 'answered' ? 'page' : seen.end,
    endsAt: seen.end === 'loop' ? (last?.location ?? start) : (last?.url ?? start),
    status: last?.status ?? null,
    failure: last?.failure ?? null,
    detail: last?.detail ?? null,
    dialled: own?.address ?? null,
    certificate: own?.certificate ?? null,
    hsts: own?.headers['strict-transport-security'] ?? null,
    robotsHeader: last?.headers['x-robots-tag'] ?? null,
    page: seen.end === 'answered' && last?.status === 200 ? face : null,
  };
}
