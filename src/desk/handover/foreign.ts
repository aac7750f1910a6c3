import type { EvidenceSeen, Handover } from '../../api/documents.js';
import type { Placement } from '../../core/badge/placement.js';
import { TokenRow } from '../../store/models/enrolments.js';
import type { Desk } from '../context/desk.js';
import { viewEvidence } from '../history/evidence.js';
import { evidenceOf } from '../history/stretches.js';
import type { EnrolmentFacts } from '../facts/enrolment-facts.js';
import { placementFor } from '../tokens/placements.js';

type Foreign = Handover['foreign'][number];

/**
 * Tokens that engines would read and that are none of ours, in place of ours or beside: somebody else has proved, or wanted to prove, that
 * a site is theirs. What the newest look at each place kept is looked through.
 */
export async function foreignTokens(desk: Desk, all: readonly EnrolmentFacts[]): Promise<Foreign[]> {
  const ids = all.flatMap(({ checks }) => checks.map(({ id }) => id));
  const evidence = await evidenceOf(desk, ids);
  // What we had there before is old, and ours all the same.
  const ever = await TokenRow.findAll({
    attributes: ['value'],
    where: { enrolmentId: all.map(({ row }) => row.id) },
  });
  const own = new Set(ever.map(({ value }) => value));
  const found = all.flatMap((facts) =>
    facts.checks.flatMap((check) => {
      const token = facts.tokens.find(({ id }) => id === check.tokenId);
      const placement = token && placementFor(facts, token);
      if (!placement) return [];
      const seen = evidence.get(check.id);
      const instead = check.findings
        .filter(({ code }) => /\.(other-value|taken)$/u.test(code))
        .map(({ evidence: values }) => String(values['found'] ?? ''));
      const beside = seen === undefined ? [] : besideOurs(viewEvidence(seen), placement, token);
      return [...instead, ...beside]
        .filter((what) => what !== '' && ![...own].some((value) => what.includes(value)))
        .map((what) => told(facts, check.place, what));
    }),
  );
  return [...new Map(found.map((one) => [`${one.engine} ${one.place} ${one.what}`, one])).values()];
}

function told({ profile: { title }, name }: EnrolmentFacts, place: string, what: string): Foreign {
  return {
    ...{ engine: title, enrolment: name, place, what },
    says: `Ask the client who placed it for ${title}: another agency, or somebody of their own. It is theirs, and stays until they say otherwise.`,
  };
}

/** What stands beside a token of ours and has the form of one. */
function besideOurs(seen: EvidenceSeen, placement: Placement, { value }: TokenRow): string[] {
  if (placement.method === 'dns' && seen.kind === 'dns') {
    const [form = ''] = placement.value.split(value);
    // At a name that is the engine’s own everything is meant for it; at others what begins as its tokens do.
    const isOwnName = form === '' && placement.recordName !== '@';
    return seen.records
      .map((record) => record.value)
      .filter((text) => text !== placement.value && (isOwnName || (form !== '' && text.startsWith(form))));
  }
  if (placement.method === 'meta' && seen.kind === 'page')
    return (seen.around?.lines ?? [])
      .flatMap(({ text }) => text.match(/<meta\b[^<>]*>/giu) ?? [])
      .filter((tag) => tag.includes(`"${placement.name}"`) && !tag.includes(value));
  return [];
}
