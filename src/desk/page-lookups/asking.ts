import Joi from 'joi';
import { Op, type Transaction } from 'sequelize';
import type { JobResult, RationOfAccount } from '../../api/documents.js';
import { chooseLookups } from '../../core/badge/lookup-choice.js';
import { targetsOver } from '../../core/address/targets-over.js';
import { dayOf, rationOf, turnOf, type Ration } from '../../core/profile/ration.js';
import type { EngineProfile } from '../../core/profile/profile.js';
import { isHeld } from '../../core/variants/cover.js';
import type { Lookup } from '../../engines/engine.js';
import { Problem } from '../../api/problems.js';
import { AccountRow } from '../../store/models/accounts.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { PageAskRow } from '../../store/models/page-lookups.js';
import { enrolmentValue, waitSays } from '../engines/answers.js';
import { enrolmentFacts, factsOf, type EnrolmentFacts } from '../facts/enrolment-facts.js';
import { note } from '../context/journal.js';
import { anyWork, Later, type NewPiece, type Piece } from '../jobs/work.js';
import { engineOf, nowText, type Desk } from '../context/desk.js';
import { engineIdOf } from '../context/engine-ref.js';
import { writtenDay, writtenMinute } from '../../core/time/time-formats.js';
import { given } from '../../api/given.js';

type Kind = PageAskRow['kind'];

interface AskInput {
  readonly kind: Kind;
  readonly enrolmentId: string;
  readonly address: string;
  /** Whether it may wait for another day's ration. */
  readonly spread?: boolean;
}

const MEANWHILE = 'Until then a sitemap is what is left.';

/**
 * One piece for each address at each engine that holds a badge over it, or at the one that is named. Those that go beyond
 * the day's ration are put off to the days after, where that is wanted.
 */
export async function askPieces(
  desk: Desk,
  kind: Kind,
  order: { addresses: string[]; engine?: string; spread?: boolean },
): Promise<NewPiece<AskInput>[]> {
  const pieces: NewPiece<AskInput>[] = [];
  const spread = order.spread === true ? { spread: true } : {};
  const days = new Map<string, Days>();
  const engine = order.engine === undefined ? undefined : engineIdOf(desk, order.engine);
  for (const text of new Set(order.addresses)) {
    const url = readAddress(text);
    for (const facts of await over(desk, kind, url, engine)) {
      const { id, accountId } = facts.row;
      const input: AskInput = { kind, enrolmentId: id, address: url.href, ...spread };
      const dueAt = order.spread === true ? await dayFor(desk, days, accountId, facts.profile, kind) : null;
      pieces.push({
        subject: `${url.href} at ${facts.profile.title}`,
        input,
        engine: facts.row.engine,
        ...(dueAt ? { dueAt } : {}),
      });
    }
  }
  return pieces;
}

/** How the rations of an account are filled, day after day. */
interface Days {
  placed: number;
  readonly ration: Ration;
}

/** When the next piece of an account has its turn; null for today. */
async function dayFor(
  desk: Desk,
  days: Map<string, Days>,
  accountId: string,
  profile: EngineProfile,
  kind: Kind,
): Promise<Date | null> {
  if (profile.worked.how === 'hand') return null;
  const known = days.get(accountId) ?? {
    placed: 0,
    ration: await rationNow(desk, accountId, profile, kind),
  };
  days.set(accountId, known);
  const due = turnOf(known.placed, known.ration);
  known.placed += 1;
  return due;
}

function readAddress(text: string): URL {
  if (URL.canParse(text)) {
    const url = new URL(text);
    url.hash = '';
    if (url.protocol === 'http:' || url.protocol === 'https:') return url;
  }
  throw new Problem('bad-page-address', { text: text.slice(0, 80) });
}

/** The enrolments to ask by: of each engine the narrowest over the address whose badge is held. Throws Problem where there is none. */
async function over(desk: Desk, kind: Kind, url: URL, engine?: string): Promise<EnrolmentFacts[]> {
  const rows = await EnrolmentRow.findAll({
    where: { target: targetsOver(url), endedAt: null, ...given({ engine }) },
  });
  const asked = chooseLookups(
    (await enrolmentFacts(desk, rows))
      .filter(({ profile }) => profile.worked.how !== 'house')
      .map((facts) => ({
        engine: facts.profile.id,
        target: facts.row.target,
        isHeld: isHeld(facts.standing),
        takes: rationAt(facts.profile, kind) > 0 || facts.profile.worked.how === 'hand',
        facts,
      })),
  );
  switch (asked.kind) {
    case 'asked':
      return asked.by.map(({ facts }) => facts);
    case 'not-covered':
      throw new Problem('not-covered', {
        address: url.href,
        where: engine === undefined ? '' : ` at ${desk.book.titleOf(engine)}`,
      });
    case 'not-held':
      throw new Problem('not-held', { address: url.href, enrolment: asked.one.facts.name });
    case 'not-taken':
      throw new Problem('not-taken', { engine: asked.one.facts.profile.title, what: `${kind}s` });
  }
}

function rationAt(profile: EngineProfile, kind: Kind): number {
  return kind === 'lookup' ? profile.lookupsADay : profile.visitsADay;
}

async function rationNow(
  desk: Desk,
  accountId: string,
  profile: EngineProfile,
  kind: Kind,
  transaction: Transaction | null = null,
): Promise<Ration> {
  const now = desk.clock.now();
  const used = await PageAskRow.count({
    where: { accountId, kind, at: { [Op.gte]: dayOf(now).toISOString() } },
    transaction,
  });
  return rationOf(used, rationAt(profile, kind), now);
}

/** One piece: one address is looked up, or a visit to it asked for, within the day's ration. */
async function runAsk(desk: Desk, piece: Piece<AskInput>): Promise<JobResult> {
  const { kind, enrolmentId, address, spread } = piece.input;
  const row = await EnrolmentRow.findByPk(enrolmentId, { rejectOnEmpty: true });
  const facts = await factsOf(desk, row);
  const { title } = facts.profile;
  const ration = await rationNow(desk, row.accountId, facts.profile, kind);
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  const done = (listed: boolean | null, visitedAt: string | null, left: number): JobResult => ({
    says: `${say(title, listed, visitedAt)} ${String(left)} of ${String(ration.ration)} ${kind}s are left today.`,
    stops: listed === false,
    enrolment: facts.name,
    property: property.handle,
    page: { address, listed, visitedAt, left, ration: ration.ration },
  });
  const isRationed = facts.profile.worked.how !== 'hand';
  const reserved = await reserve(desk, piece, facts, { kind, enrolmentId, address });
  // After a crash behind the record: it was asked, and is not asked again.
  if (reserved?.answeredAt != null)
    return done(reserved.listed ?? null, reserved.visitedAt ?? null, ration.left);
  if (reserved === null && isRationed && spread === true)
    throw new Later(
      ration.until,
      `${title}’s ${kind}s of today are spent; this one waits for the next day’s.`,
    );
  if (reserved === null)
    throw new Problem(
      'ration-spent',
      {
        engine: title,
        ration: ration.ration,
        what: `${kind}s`,
        until: writtenMinute(ration.until),
        meanwhile: MEANWHILE,
      },
      { until: ration.until.toISOString() },
    );
  const engine = await engineOf(desk, row);
  const outcome = await (kind === 'lookup'
    ? engine.lookup(row.ref, address, piece.itemId)
    : engine.visit(row.ref, address, piece.itemId));
  // What the engine did not take has cost nothing. One that was not reached may have counted it: its place stays kept for today.
  if (outcome.kind !== 'done' && outcome.kind !== 'unreached') await giveBack(desk, piece.itemId);
  if (outcome.kind === 'wait' && outcome.until && spread === true)
    throw new Later(outcome.until, waitSays(outcome));
  const seen = await enrolmentValue<Lookup | null>(desk, piece.actor, facts, outcome).catch(meanwhile);
  await desk.store.write(async (transaction) => {
    await PageAskRow.update(
      {
        answeredAt: nowText(desk),
        listed: seen?.listed ?? null,
        visitedAt: seen?.visitedAt ?? null,
        says: seen?.says ?? null,
      },
      { where: { id: piece.itemId }, transaction },
    );
    await note(desk, piece.actor, transaction, {
      kind: `page.${kind}`,
      says: `${address}: ${say(title, seen?.listed ?? null, seen?.visitedAt ?? null)}`,
      property,
      enrolmentId,
    });
  });
  // Others may have asked meanwhile.
  const { left } = await rationNow(desk, row.accountId, facts.profile, kind);
  return done(seen?.listed ?? null, seen?.visitedAt ?? null, left);
}

/**
 * Takes a place in the day's ration before anything is sent, so that pieces that run at once do not count the same one, and
 * one that crashed keeps its own.
 * @returns null where none is left
 */
function reserve(
  desk: Desk,
  { itemId }: Piece,
  { row, profile }: EnrolmentFacts,
  ask: Pick<PageAskRow, 'kind' | 'enrolmentId' | 'address'>,
): Promise<PageAskRow | null> {
  return desk.store.write(async (transaction) => {
    const there = await PageAskRow.findByPk(itemId, { transaction });
    if (there) return there;
    const { left } = await rationNow(desk, row.accountId, profile, ask.kind, transaction);
    if (left === 0 && profile.worked.how !== 'hand') return null;
    return PageAskRow.create(
      { id: itemId, accountId: row.accountId, ...ask, at: nowText(desk) },
      { transaction },
    );
  });
}

async function giveBack(desk: Desk, itemId: string): Promise<void> {
  await desk.store.write((transaction) =>
    PageAskRow.destroy({ where: { id: itemId, answeredAt: null }, transaction }),
  );
}

/** What an engine has switched off is waited for; what can be done meanwhile is said with it. */
function meanwhile(error: unknown): never {
  if (error instanceof Problem && error.code === 'engine-waits')
    throw new Problem('engine-waits', { says: `${error.detail} ${MEANWHILE}` }, error.more);
  throw error;
}

/** @param listed null for a visit */
function say(title: string, listed: boolean | null, visitedAt: string | null): string {
  if (listed === null) return `${title} was asked to visit it.`;
  const visited = visitedAt === null ? 'it was never there' : `last there on ${writtenDay(visitedAt)}`;
  return `${title} ${listed ? 'lists it' : 'does not list it'}; ${visited}.`;
}

/** What is left of today's rations, by account. */
export async function listRations(desk: Desk): Promise<{ items: RationOfAccount[] }> {
  const accounts = await AccountRow.findAll({ order: ['engine', 'name'] });
  const items = await Promise.all(
    accounts.map(async ({ id, name, engine }): Promise<RationOfAccount[]> => {
      const profile = desk.book.profiles.get(engine);
      if (!profile || profile.lookupsADay + profile.visitsADay === 0) return [];
      const [lookups, visits] = await Promise.all([
        rationNow(desk, id, profile, 'lookup'),
        rationNow(desk, id, profile, 'visit'),
      ]);
      const view = ({ used, ration, left }: Ration) => ({ used, ration, left });
      return [
        {
          engine: { id: engine, title: profile.title },
          account: name,
          lookups: view(lookups),
          visits: view(visits),
          until: lookups.until.toISOString(),
        },
      ];
    }),
  );
  return { items: items.flat() };
}

export const askWork = anyWork<AskInput>({
  kind: 'ask',
  input: Joi.object<AskInput, true>({
    kind: Joi.string().valid('lookup', 'visit').required(),
    enrolmentId: Joi.string().required(),
    address: Joi.string().required(),
    spread: Joi.boolean(),
  }),
  run: runAsk,
});
