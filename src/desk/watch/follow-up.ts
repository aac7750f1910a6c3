import type { JobResult } from '../../api/documents.js';
import type { Method } from '../../core/profile/profile.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { runClaim } from '../claims/claims.js';
import type { Desk } from '../context/desk.js';
import type { Piece } from '../jobs/work.js';
import type { EnrolmentFacts } from '../facts/enrolment-facts.js';
import { recordNews } from '../outbox/news.js';

/**
 * What follows when a look of the watch saw a token stand that nobody has confirmed yet: it is claimed where the client or the agency
 * wants that, and people are told what came of it; else they are told that it can be claimed.
 * @param before what was on record before the look
 * @param result what the look came to
 * @returns the same, with what followed
 */
export async function followUp(
  desk: Desk,
  piece: Piece,
  before: EnrolmentFacts,
  method: Method,
  result: JobResult,
): Promise<JobResult> {
  if (result.stops || before.ownership !== null) return result;
  const { row, name, profile } = before;
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  const client = await ClientRow.findByPk(property.clientId, { rejectOnEmpty: true });
  const token = before.tokens.find((one) => one.method === method);
  const told = before.checks.find(({ tokenId }) => tokenId === token?.id);
  const isNew = told?.told !== 'seen';
  const about = { id: piece.itemId, property, enrolment: name };
  const claims = client.claims ?? desk.claims;
  if (
    claims === 'by-themselves' &&
    profile.worked.how !== 'hand' &&
    isWorthClaiming(before, told?.toldSince ?? null)
  ) {
    const input = { enrolmentId: row.id, method, anyway: false, isSure: true };
    const claimed = await runClaim(desk, { ...piece, input });
    const verdict = claimed.claim?.verdict;
    if (verdict === 'confirmed' || verdict === 'refused')
      await recordNews(desk, {
        ...about,
        kind: verdict === 'confirmed' ? 'held' : 'refused',
        says: `The ${method} token of ${name} stood, and was claimed by itself: ${claimed.says}`,
      });
    return { ...result, says: `${result.says} ${claimed.says}` };
  }
  if (isNew)
    await recordNews(desk, {
      ...about,
      kind: 'stands',
      says:
        profile.worked.how === 'hand'
          ? `The ${method} token of ${name} stands: claim it on ${profile.title}’s own pages, and record the verdict.`
          : `The ${method} token of ${name} stands: it can be claimed at ${profile.title}.`,
    });
  return result;
}

/** A claim that is open is asked about; one that was refused is not made again before the token was gone and came back. */
function isWorthClaiming({ claim }: EnrolmentFacts, stoodSince: string | null): boolean {
  if (claim?.answeredAt == null) return true;
  return stoodSince !== null && claim.answeredAt < stoodSince;
}
