import { standing, type Standing } from '../../core/badge/standing.js';
import { METHODS, type EngineProfile, type Method } from '../../core/profile/profile.js';
import { CheckRow, ClaimRow, EnrolmentRow, OwnershipRow, TokenRow } from '../../store/models/enrolments.js';
import { namesOf } from '../context/names.js';
import { by, newest, type Raw } from '../context/newest.js';
import { profileOf, type Desk } from '../context/desk.js';

/** Everything recorded of one enrolment that its badge is derived from. */
export interface EnrolmentFacts {
  readonly row: EnrolmentRow;
  /** As it is written: `ferries@veldrane:name`. */
  readonly name: string;
  readonly profile: EngineProfile;
  readonly tokens: readonly TokenRow[];
  /** The newest check of each token in force. */
  readonly checks: readonly CheckRow[];
  readonly ownership: OwnershipRow | null;
  readonly claim: ClaimRow | null;
  readonly standing: Standing;
}

/** The facts of enrolments, in their order. Costs a fixed number of queries, however many they are. */
export async function enrolmentFacts(desk: Desk, rows: readonly EnrolmentRow[]): Promise<EnrolmentFacts[]> {
  if (rows.length === 0) return [];
  const ids = rows.map(({ id }) => id);
  const [tokens, checks, ownerships, claims, names] = await Promise.all([
    TokenRow.findAll({ where: { enrolmentId: ids, replacedAt: null } }),
    newestChecks(desk, ids),
    newest<Raw<OwnershipRow>>(desk.store, 'ownerships', 'enrolmentId', 'at', ids),
    newest<Raw<ClaimRow>>(desk.store, 'claims', 'enrolmentId', 'askedAt', ids),
    namesOf(desk.store, ids),
  ]);
  const tokensOf = by(tokens, (one) => one.enrolmentId);
  const checksOf = by(checks, (one) => one.enrolmentId);
  const ownershipOf = new Map(ownerships.map((one) => [one.enrolmentId, one]));
  const claimOf = new Map(claims.map((one) => [one.enrolmentId, one]));
  return rows.map((row) => {
    const inForce = inOrder(tokensOf.get(row.id) ?? []);
    const current = (checksOf.get(row.id) ?? []).filter((check) =>
      inForce.some((token) => token.id === check.tokenId),
    );
    return stood({
      row,
      name: names.get(row.id) ?? row.id,
      profile: profileOf(desk, row.engine),
      tokens: inForce,
      checks: inOrder(current).map((check) =>
        CheckRow.build({ ...check, seen: Boolean(check.seen) }, { raw: true, isNewRecord: false }),
      ),
      ownership: ownershipOf.get(row.id) ?? null,
      claim: claimOf.get(row.id) ?? null,
    });
  });
}

/** The newest check of each token in force, found by its index and without its history. */
function newestChecks({ store }: Desk, enrolmentIds: readonly string[]): Promise<Raw<CheckRow>[]> {
  return store.select<Raw<CheckRow>>(
    `SELECT c.* FROM tokens t JOIN checks c ON c.id =
       (SELECT n.id FROM checks n WHERE n.tokenId = t.id ORDER BY n.checkedAt DESC, n.rowid DESC LIMIT 1)
      WHERE t.enrolmentId IN (SELECT value FROM json_each($ids)) AND t.replacedAt IS NULL`,
    { ids: [...enrolmentIds] },
  );
}

/** The facts of one enrolment. */
export async function factsOf(desk: Desk, row: EnrolmentRow): Promise<EnrolmentFacts> {
  const [facts] = await enrolmentFacts(desk, [row]);
  if (!facts) throw new Error('an enrolment that is there has facts');
  return facts;
}

/** In the order in which methods are proposed, so that a choice among equals is always the same. */
function inOrder<Row extends { method: Method }>(rows: readonly Row[]): Row[] {
  return [...rows].sort((a, b) => METHODS.indexOf(a.method) - METHODS.indexOf(b.method));
}

/** The badge, from what is recorded. */
function stood(parts: Omit<EnrolmentFacts, 'standing'>): EnrolmentFacts {
  const { row, tokens, checks, ownership } = parts;
  return {
    ...parts,
    standing: standing({
      enrolledAt: new Date(row.createdAt),
      tokenAt: tokens[0] ? new Date(tokens[0].issuedAt) : null,
      checks: checks.map((check) => ({
        method: check.method,
        told: check.told ?? null,
        at: new Date(check.checkedAt),
        since: new Date(check.toldSince ?? check.seenSince),
      })),
      ownership: ownership && ownershipFact(ownership),
    }),
  };
}

function ownershipFact(row: OwnershipRow): Parameters<typeof standing>[0]['ownership'] {
  if (row.kind === 'withdrawn') return { kind: 'withdrawn', at: new Date(row.at), reason: row.reason ?? '' };
  return { kind: 'confirmed', at: new Date(row.at), method: row.method ?? 'meta' };
}
