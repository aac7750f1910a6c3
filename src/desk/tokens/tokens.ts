import { issuedFault } from '../../core/badge/token/shape.js';
import Joi from 'joi';
import type { Transaction } from 'sequelize';
import type { JobResult, Method } from '../../api/documents.js';
import { METHODS, methodsFor } from '../../core/profile/profile.js';
import { Problem } from '../../api/problems.js';
import { newId } from '../../store/ids.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow, TokenRow } from '../../store/models/enrolments.js';
import type { IssuedToken, Outcome } from '../../engines/engine.js';
import { enrolmentValue } from '../engines/answers.js';
import { chosenEnrolments } from '../facts/chosen-enrolments.js';
import { enrolmentFacts, factsOf, type EnrolmentFacts } from '../facts/enrolment-facts.js';
import { note } from '../context/journal.js';
import { EXACT } from '../context/references.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { engineOf, nowText, profileOf, type Actor, type Desk } from '../context/desk.js';

interface TokenInput {
  readonly enrolmentId: string;
  readonly methods: Method[];
}

/** One piece for each enrolment: the tokens of all the methods that its reach allows, or of one. */
export async function tokenPieces(
  desk: Desk,
  which: { enrolments?: string[]; all?: boolean; method?: Method },
): Promise<NewPiece<TokenInput>[]> {
  const facts = await enrolmentFacts(desk, await chosenEnrolments(desk, which, EXACT));
  return facts.map(({ row, name }) => {
    const profile = profileOf(desk, row.engine);
    const offered = methodsFor(profile, row.reach);
    if (which.method !== undefined && !offered.includes(which.method)) {
      throw new Problem('method-not-taken', {
        engine: profile.title,
        method: which.method,
        enrolment: name,
        taken: offered.join(', '),
      });
    }
    const input: TokenInput = {
      enrolmentId: row.id,
      methods: which.method === undefined ? [...offered] : [which.method],
    };
    return { subject: name, input, engine: row.engine };
  });
}

/** A token that has passed its time unclaimed is none: the engine would not know it any more. */
export function isExpired(token: TokenRow, now: Date, badge: string): boolean {
  return (
    token.expiresAt != null && badge !== 'held' && badge !== 'slipping' && new Date(token.expiresAt) <= now
  );
}

/** What asking for a token came to: the one we had, a first one, one in place of a void one, or another one unasked. */
export type TokenNews = 'same' | 'first' | 'renewed' | 'changed';

/** Asks the engine for the token by one method, and records it when it is news. */
export async function askToken(
  desk: Desk,
  actor: Actor,
  facts: EnrolmentFacts,
  method: Method,
): Promise<Outcome<TokenNews>> {
  const known = facts.tokens.find((token) => token.method === method) ?? null;
  const isVoid = known !== null && isExpired(known, desk.clock.now(), facts.standing.badge);
  const current = known && !isVoid ? { value: known.value, expiresAt: known.expiresAt ?? null } : null;
  const outcome = await (await engineOf(desk, facts.row)).token(facts.row.ref, method, current);
  if (outcome.kind !== 'done') return outcome;
  const issued = outcome.value;
  const fault = issuedFault(facts.profile, method, issued.value);
  if (fault !== null)
    return {
      kind: 'refused',
      code: 'token-odd',
      says: `${facts.profile.title} answered with what is no token, so it was not taken: ${fault}`,
    };
  if (known?.value === issued.value) return { kind: 'done', value: 'same' };
  await recordToken(desk, actor, facts, { method, issued, known, why: isVoid ? 'expired' : 'changed' });
  return { kind: 'done', value: known === null ? 'first' : isVoid ? 'renewed' : 'changed' };
}

/** Renews what nobody claimed with in time. @returns what is to be told of it; null where nothing was void */
export async function renewExpired(desk: Desk, actor: Actor, facts: EnrolmentFacts): Promise<string | null> {
  const isVoid = facts.tokens.filter((token) => isExpired(token, desk.clock.now(), facts.standing.badge));
  const renewed: Method[] = [];
  for (const { method } of isVoid) {
    const outcome = await askToken(desk, actor, facts, method);
    if (outcome.kind === 'done' && outcome.value === 'renewed') renewed.push(method);
  }
  return renewed.length === 0 ? null : newsSays(facts, [{ method: renewed.join(', '), news: 'renewed' }]);
}

function newsSays(facts: EnrolmentFacts, all: readonly { method: string; news: TokenNews }[]): string {
  const of = (news: TokenNews) => all.filter((one) => one.news === news).map(({ method }) => method);
  const { title } = facts.profile;
  const parts = [
    of('first').length > 0 ? `New: ${of('first').join(', ')}.` : '',
    of('renewed').length > 0
      ? `Renewed, since nobody had claimed in time: ${of('renewed').join(', ')}. What was placed is old now.`
      : '',
    of('changed').length > 0
      ? `${title} handed out another token than before: ${of('changed').join(', ')}. What was placed is old now.`
      : '',
  ].filter((part) => part !== '');
  return parts.length > 0 ? parts.join(' ') : 'The tokens are known already.';
}

/** One piece of a token job. */
async function runToken(desk: Desk, piece: Piece<TokenInput>): Promise<JobResult> {
  const { enrolmentId, methods } = piece.input;
  const row = await EnrolmentRow.findByPk(enrolmentId, { rejectOnEmpty: true });
  const facts = await factsOf(desk, row);
  const { worked, title } = facts.profile;
  if (worked.how === 'hand' && facts.tokens.length === 0)
    throw new Problem('by-hand', {
      says: `${title} is a manual engine: register the site on its own pages, then paste what it shows with “token ${facts.name} --paste …”.`,
    });
  const news: { method: Method; news: TokenNews }[] = [];
  for (const method of methods) {
    if (worked.how === 'hand' && !facts.tokens.some((token) => token.method === method)) continue;
    const outcome = await askToken(desk, piece.actor, facts, method);
    news.push({ method, news: await enrolmentValue(desk, piece.actor, facts, outcome) });
  }
  return {
    says: newsSays(facts, news),
    stops: news.some((one) => one.news === 'changed' || one.news === 'renewed'),
    enrolment: facts.name,
    placements: methods.length,
  };
}

export interface TokenToRecord {
  readonly method: Method;
  readonly issued: IssuedToken;
  /** The one in force until now. */
  readonly known: TokenRow | null;
  readonly why: 'expired' | 'changed';
  /** Who pasted it. */
  readonly recordedBy?: string | null;
}

/** Puts a token in force, and keeps the one before. An account's token is put in force for all its enrolments. */
export async function recordToken(
  desk: Desk,
  actor: Actor,
  facts: Pick<EnrolmentFacts, 'row' | 'name' | 'profile'>,
  token: TokenToRecord,
): Promise<void> {
  const property = await PropertyRow.findByPk(facts.row.propertyId, { rejectOnEmpty: true });
  const { method, issued, known, why } = token;
  await desk.store.write(async (transaction) => {
    const inForce = await TokenRow.findOne({
      where: { enrolmentId: facts.row.id, method, replacedAt: null },
      transaction,
    });
    // Another piece of work that asked at the same time has written it down already.
    if (inForce?.value === issued.value) return;
    await putInForce(desk, transaction, facts.row.id, token);
    if (facts.profile.token.per === 'account') await putInForceElsewhere(desk, transaction, facts, token);
    await note(desk, actor, transaction, {
      kind: known ? 'token.replaced' : 'token.issued',
      says: tokenSays(facts, token),
      property,
      enrolmentId: facts.row.id,
      details: { method, token: issued.value, before: known?.value ?? null, why: known ? why : null },
    });
  });
}

function tokenSays(facts: Pick<EnrolmentFacts, 'name' | 'profile'>, token: TokenToRecord): string {
  const { title } = facts.profile;
  const { method, known, why } = token;
  if (!known)
    return token.recordedBy == null
      ? `${title} issued the ${method} token for ${facts.name}.`
      : `The ${method} token of ${title} for ${facts.name} was pasted.`;
  return why === 'expired'
    ? `The ${method} token of ${facts.name} expired unclaimed, and ${title} issued a new one: what was placed is out of date.`
    : `${title} handed out another ${method} token for ${facts.name}: what was placed before is old now.`;
}

async function putInForce(
  desk: Desk,
  transaction: Transaction,
  enrolmentId: string,
  { method, issued, why, recordedBy }: TokenToRecord,
): Promise<void> {
  const now = nowText(desk);
  await TokenRow.update(
    { replacedAt: now, replacedWhy: why },
    { where: { enrolmentId, method, replacedAt: null }, transaction },
  );
  await TokenRow.create(
    {
      id: newId(),
      enrolmentId,
      method,
      value: issued.value,
      issuedAt: now,
      expiresAt: issued.expiresAt,
      recordedBy: recordedBy ?? null,
    },
    { transaction },
  );
}

async function putInForceElsewhere(
  desk: Desk,
  transaction: Transaction,
  { row }: Pick<EnrolmentFacts, 'row'>,
  token: TokenToRecord,
): Promise<void> {
  const others = await EnrolmentRow.findAll({
    where: { accountId: row.accountId, endedAt: null },
    attributes: ['id'],
    transaction,
  });
  const old = await TokenRow.findAll({
    where: { enrolmentId: others.map(({ id }) => id), method: token.method, replacedAt: null },
    transaction,
  });
  for (const { enrolmentId, value } of old)
    if (enrolmentId !== row.id && value !== token.issued.value)
      await putInForce(desk, transaction, enrolmentId, { ...token, why: 'changed' });
}

/**
 * Gives a new enrolment the tokens that its account has already, where one token serves them all.
 * @returns how many
 */
export async function shareAccountTokens(
  desk: Desk,
  transaction: Transaction,
  enrolment: Pick<EnrolmentRow, 'id' | 'accountId'>,
): Promise<number> {
  const others = await EnrolmentRow.findAll({
    where: { accountId: enrolment.accountId, endedAt: null },
    attributes: ['id'],
    transaction,
  });
  const tokens = await TokenRow.findAll({
    where: { enrolmentId: others.map(({ id }) => id), replacedAt: null },
    transaction,
  });
  const byMethod = new Map(tokens.map((token) => [token.method, token]));
  for (const [method, { value, expiresAt }] of byMethod)
    await putInForce(desk, transaction, enrolment.id, {
      method,
      issued: { value, expiresAt: expiresAt ?? null },
      known: null,
      why: 'changed',
    });
  return byMethod.size;
}

export const tokenWork = anyWork<TokenInput>({
  kind: 'token',
  input: Joi.object<TokenInput, true>({
    enrolmentId: Joi.string().required(),
    methods: Joi.array()
      .items(Joi.string().valid(...METHODS))
      .required(),
  }),
  run: runToken,
});
