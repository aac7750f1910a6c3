import { Problem } from '../../api/problems.js';
import type { Outcome } from '../../engines/engine.js';
import { newId } from '../../store/ids.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow, OwnershipRow } from '../../store/models/enrolments.js';
import type { EnrolmentFacts } from '../facts/enrolment-facts.js';
import { note } from '../context/journal.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { writtenMinute } from '../../core/time/time-formats.js';

/** The code by which the link says that it does not know an enrolment. */
const UNKNOWN = 'no-such-enrolment';

/** The value of an engine's answer, or the problem that tells what stood in the way: its own no, a wait, or no answer. */
export function engineValue<T>(outcome: Outcome<T>): T {
  switch (outcome.kind) {
    case 'done':
      return outcome.value;
    case 'refused':
      throw new Problem(outcome.code === 'no-key' ? 'no-engine-key' : 'engine-refused', {
        says: outcome.says,
      });
    case 'wait':
      throw new Problem(
        'engine-waits',
        { says: waitSays(outcome) },
        { until: outcome.until?.toISOString() ?? null },
      );
    case 'unreached':
      throw new Problem('engine-unreached', {
        says: outcome.says,
        then: 'Nothing is lost, and nothing is wrong with the site: try again later.',
      });
    case 'by-hand':
      throw new Problem('by-hand', { says: outcome.says });
  }
}

/** As `engineValue`, for an answer about one enrolment: an engine that has lost it is noticed and recorded. */
export async function enrolmentValue<T>(
  desk: Desk,
  actor: Actor,
  facts: Pick<EnrolmentFacts, 'row' | 'name' | 'profile' | 'ownership'>,
  outcome: Outcome<T>,
): Promise<T> {
  if (outcome.kind !== 'refused' || outcome.code !== UNKNOWN) return engineValue(outcome);
  await noteMissing(desk, actor, facts);
  throw missing(facts);
}

function missing({ profile, name }: Pick<EnrolmentFacts, 'profile' | 'name'>): Problem {
  return new Problem('enrolment-missing', {
    engine: profile.title,
    enrolment: name,
    meanwhile: '. Nothing is wrong with the site, and our records are kept.',
  });
}

/** Records, once, that an engine does not know an enrolment any more. Its badge is gone with it. */
export async function noteMissing(
  desk: Desk,
  actor: Actor,
  facts: Pick<EnrolmentFacts, 'row' | 'name' | 'profile' | 'ownership'>,
): Promise<void> {
  const property = await PropertyRow.findByPk(facts.row.propertyId, { rejectOnEmpty: true });
  await desk.store.write(async (transaction) => {
    const row = await EnrolmentRow.findByPk(facts.row.id, { transaction, rejectOnEmpty: true });
    if (row.missingSince != null) return;
    const at = nowText(desk);
    await row.update({ missingSince: at }, { transaction });
    if (facts.ownership?.kind === 'confirmed')
      await OwnershipRow.create(
        {
          id: newId(),
          enrolmentId: row.id,
          at,
          kind: 'withdrawn',
          reason: 'the engine has lost the enrolment',
        },
        { transaction },
      );
    await note(desk, actor, transaction, {
      kind: 'enrolment.missing',
      says: missing(facts).detail,
      property,
      enrolmentId: row.id,
    });
  });
}

export function waitSays(outcome: Extract<Outcome<unknown>, { kind: 'wait' }>): string {
  const says = outcome.says.replace(/[.!?]$/, '');
  const { until } = outcome;
  return until === null
    ? `${says}. It asks for patience: nothing is lost, try again later.`
    : `${says}. A wait, not a failure: until ${writtenMinute(until)} UTC, and nothing is lost.`;
}
