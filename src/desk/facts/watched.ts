import { hostOf, parseScope } from '../../core/address/reach.js';
import { sightOf } from '../../core/badge/visibility.js';
import { durationMs } from '../../core/time/duration.js';
import {
  dueOf,
  placementEvery,
  placeOf,
  waitingDue,
  type LastLook,
  type Rhythms,
  type Watched,
} from '../../core/watch/rhythm.js';
import type { ClientRow, PropertyRow } from '../../store/models/clients.js';
import type { CheckRow, TokenRow } from '../../store/models/enrolments.js';
import type { WatchedValues } from '../../store/models/projections.js';
import { frontDoorOf } from '../context/front-door.js';
import type { EnrolmentFacts } from './enrolment-facts.js';
import type { SitemapFacts } from './sitemap-facts.js';
import type { VariantFacts } from './variant-facts.js';
import type { PropertyFacts } from './property-facts.js';

/** What is looked at first where much is due at once: what would be lost first. */
const URGENCY: Readonly<Record<Watched, number>> = { placement: 1, variants: 2, sitemap: 3 };
/** What did not come out well goes before what is only due. */
const MOST_URGENT = 0;

interface Facts extends PropertyFacts {
  readonly client: ClientRow;
  /** When something was heard last by a link to its sheet. */
  readonly heardAt: string | null;
}

/** What is watched of a property, and when each is due: nothing but what the facts say. */
export function watchedOf(facts: Facts): WatchedValues[] {
  const { desk, property, enrolments, variants, sitemapFacts } = facts;
  const rhythms: Rhythms = { ...desk.watch, ...property.rhythms };
  const all: Watching[] = [
    ...enrolments.flatMap((one) => placementsOf(one, durationMs(rhythms.placement), facts.heardAt)),
    {
      what: 'variants',
      key: property.id,
      subject: property.handle,
      input: { what: 'variants', propertyId: property.id },
      host: frontDoorOf(property).host,
      every: durationMs(rhythms.variants),
      last: variantsLook(property, variants),
    },
    ...sitemapFacts
      .filter(({ withdrawn }) => !withdrawn)
      .map((one): Watching => ({
        what: 'sitemap',
        key: one.row.id,
        subject: one.row.url,
        input: { what: 'sitemap', sitemapId: one.row.id },
        host: new URL(one.row.url).hostname,
        every: durationMs(rhythms.sitemap),
        last: readingLook(one),
      })),
  ];
  return all.map((one) =>
    values(
      facts,
      one,
      all.map(({ last }) => last),
    ),
  );
}

/** The placements by which a badge is held, or was; and those of tokens that wait to be placed. */
function placementsOf(one: EnrolmentFacts, usual: number, heardAt: string | null): Watching[] {
  const { row, ownership, tokens, checks, profile } = one;
  if (row.endAskedAt != null) return [];
  if (ownership === null) return waitingOf(one, heardAt);
  return tokens
    .filter(({ method }) => method === (ownership.method ?? tokenOfWithdrawn(one)?.method))
    .map((token) => {
      const check = checks.find(({ tokenId }) => tokenId === token.id);
      return {
        what: 'placement',
        key: token.id,
        subject: `${one.name} ${token.method}`,
        input: { what: 'placement', enrolmentId: row.id, method: token.method },
        host: hostOf(parseScope(row.reach, row.target)),
        engine: row.engine,
        every: placementEvery(profile.keeps, usual),
        last: check ? placementLook(check) : { at: new Date(ownership.at), badSince: null, wellSince: null },
      };
    });
}

/** Tokens that nobody has confirmed yet: whoever placed one has to tell nobody. One that is void by then is not waited for. */
function waitingOf({ row, name, tokens, checks }: EnrolmentFacts, heardAt: string | null): Watching[] {
  return tokens.flatMap((token): Watching[] => {
    const check = checks.find(({ tokenId }) => tokenId === token.id);
    const heard = [token.issuedAt, row.askedAt ?? '', heardAt ?? ''].sort().at(-1) ?? token.issuedAt;
    const last = check ? new Date(check.checkedAt) : null;
    const visibleAt = check?.visibleAt == null ? null : new Date(check.visibleAt);
    const dueAt = waitingDue(new Date(heard), last, visibleAt);
    if (token.expiresAt != null && dueAt.toISOString() >= token.expiresAt) return [];
    const lookedAt = last ?? new Date(token.issuedAt);
    return [
      {
        what: 'placement',
        key: token.id,
        subject: `${name} ${token.method}`,
        input: { what: 'placement', enrolmentId: row.id, method: token.method },
        host: hostOf(parseScope(row.reach, row.target)),
        engine: row.engine,
        every: dueAt.getTime() - lookedAt.getTime(),
        last: { at: lookedAt, badSince: null, wellSince: null },
        dueAt,
      },
    ];
  });
}

/** A withdrawal does not say by which method the badge had been held: the one that was looked at last. */
function tokenOfWithdrawn({ tokens, checks }: EnrolmentFacts): TokenRow | undefined {
  const [newest] = [...checks].sort((a, b) => b.checkedAt.localeCompare(a.checkedAt));
  return tokens.find(({ id }) => id === newest?.tokenId);
}

function placementLook(check: CheckRow): LastLook {
  const isWell = sightOf(check) === 'seen';
  const since = new Date(check.seenSince);
  return { at: new Date(check.checkedAt), badSince: isWell ? null : since, wellSince: isWell ? since : null };
}

function variantsLook(property: PropertyRow, { stops }: VariantFacts): LastLook {
  const [worst] = stops;
  return {
    at: new Date(property.variantsAt ?? property.createdAt),
    badSince: worst ? new Date(worst.since) : null,
    wellSince: null,
  };
}

function readingLook({ row, reading, state }: SitemapFacts): LastLook {
  const firstAt = reading?.firstAt ?? reading?.at;
  return {
    at: new Date(reading?.at ?? row.createdAt),
    badSince: state === 'unreachable' && firstAt != null ? new Date(firstAt) : null,
    wellSince: null,
  };
}

interface Watching {
  readonly what: Watched;
  readonly key: string;
  readonly subject: string;
  readonly input: object;
  readonly host: string;
  readonly engine?: string;
  /** Milliseconds. */
  readonly every: number;
  readonly last: LastLook;
  /** Of a token that waits: when it is due, whatever the rhythm. */
  readonly dueAt?: Date;
}

function values({ property, client }: Facts, one: Watching, others: readonly LastLook[]): WatchedValues {
  const { what, key, subject, input, host, engine = null, every, last } = one;
  const id = `${what} ${key}`;
  const { why, dueAt } = one.dueAt
    ? { why: 'rhythm' as const, dueAt: one.dueAt }
    : dueOf({ what, every, last, others, place: placeOf(id) });
  return {
    id,
    propertyId: property.id,
    clientId: client.id,
    handle: property.handle,
    what,
    subject,
    input: JSON.stringify(input),
    host,
    engine,
    every,
    lookedAt: last.at.toISOString(),
    why,
    urgency: why === 'rhythm' ? URGENCY[what] : MOST_URGENT,
    dueAt: dueAt.toISOString(),
  };
}
