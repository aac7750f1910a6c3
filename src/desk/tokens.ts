import type { JobResult, Method } from '../api/documents.js';
import { methodsFor } from '../core/profile/profile.js';
import { Problem } from '../api/problems.js';
import { newId } from '../store/ids.js';
import { PropertyRow } from '../store/models/clients.js';
import { EnrolmentRow, TokenRow } from '../store/models/enrolments.js';
import type { IssuedToken } from '../engines/engine.js';
import { engineValue } from './engine-answers.js';
import { chosenEnrolments } from './enrolments.js';
import { enrolmentFacts, type EnrolmentFacts } from './facts.js';
import { note } from './journal.js';
import type { NewPiece, Piece } from './jobs/runner.js';
import { engineOf, nowText, profileOf, type Desk } from './parts.js';

interface TokenInput {
  readonly enrolmentId: string;
  readonly methods: readonly Method[];
}

/** One piece for each enrolment: the tokens of all the methods that its reach allows, or of one. */
export async function tokenPieces(
  desk: Desk,
  which: { enrolments?: string[]; all?: boolean; method?: Method },
): Promise<NewPiece[]> {
  const facts = await enrolmentFacts(desk, await chosenEnrolments(which));
  return facts.map(({ row, name }) => {
    const profile = profileOf(desk, row.engine);
    const offered = methodsFor(profile, row.reach);
    if (which.method !== undefined && !offered.includes(which.method)) {
      throw new Problem(
        'cannot-be',
        `${profile.title} takes no proof by ${which.method} for ${name}; it takes ${offered.join(', ')}.`,
      );
    }
    const input: TokenInput = {
      enrolmentId: row.id,
      methods: which.method === undefined ? offered : [which.method],
    };
    return { subject: name, input };
  });
}

/** A token that has passed its time is none: the engine would not know it any more. */
export function isExpired(token: TokenRow, now: Date, badge: string): boolean {
  return (
    token.expiresAt != null && badge !== 'held' && badge !== 'slipping' && new Date(token.expiresAt) <= now
  );
}

/** One piece of a token job. */
export async function runToken(desk: Desk, piece: Piece): Promise<JobResult> {
  const { enrolmentId, methods } = piece.input as TokenInput;
  const row = await EnrolmentRow.findByPk(enrolmentId, { rejectOnEmpty: true });
  const [facts] = await enrolmentFacts(desk, [row]);
  if (!facts) throw new Problem('no-such-enrolment', 'The enrolment is gone.');
  const changes: string[] = [];
  for (const method of methods) {
    const known = facts.tokens.find((token) => token.method === method);
    const usable = known && !isExpired(known, desk.clock.now(), facts.standing.badge) ? known : null;
    const current = usable && { value: usable.value, expiresAt: usable.expiresAt ?? null };
    const issued = engineValue(await engineOf(desk, row.engine).token(row.ref, method, current));
    if (known?.value !== issued.value)
      changes.push(await record(desk, piece, facts, method, issued, known ?? null));
  }
  const says = changes.length > 0 ? `New: ${changes.join(', ')}.` : 'The tokens are known already.';
  return { says, stops: false, enrolment: facts.name, placements: methods.length };
}

async function record(
  desk: Desk,
  piece: Piece,
  facts: EnrolmentFacts,
  method: Method,
  issued: IssuedToken,
  known: TokenRow | null,
): Promise<string> {
  const property = await PropertyRow.findByPk(facts.row.propertyId, { rejectOnEmpty: true });
  await desk.store.write(async (transaction) => {
    const now = nowText(desk);
    if (known) await TokenRow.update({ replacedAt: now }, { where: { id: known.id }, transaction });
    await TokenRow.create(
      {
        id: newId(),
        enrolmentId: facts.row.id,
        method,
        value: issued.value,
        issuedAt: now,
        expiresAt: issued.expiresAt,
      },
      { transaction },
    );
    await note(desk, piece.actor, transaction, {
      kind: known ? 'token.replaced' : 'token.issued',
      says: known
        ? `${facts.profile.title} handed out another ${method} token for ${facts.name}: what was placed before is old now.`
        : `${facts.profile.title} issued the ${method} token for ${facts.name}.`,
      property,
      enrolmentId: facts.row.id,
      details: { method, token: issued.value, before: known?.value ?? null },
    });
  });
  return method;
}
