import { useQuery } from '@tanstack/react-query';
import type { Advice, Enrolment } from '../../../api/documents.js';
import { api } from '../../api.js';
import { Choice } from '../../parts/choice.js';
import { FormSheet } from '../../parts/form-sheet.js';

const TITLES = { meta: 'Meta tag', file: 'File', dns: 'DNS record' };
const RANKS = { best: 'Best here', works: 'Would do', cannot: 'Not here' };
const HANDS = { zone: 'the DNS zone', files: 'the web root', pages: 'the page templates' };

/** Asks once what the client’s people can get at; the advice follows from it. */
function TellAccess({ enrolment, unknown }: { enrolment: Enrolment; unknown: Advice['unknown'] }) {
  return (
    <FormSheet
      opener="Say what they can change"
      title={`What can the people of ${enrolment.property.handle} change?`}
      says="Say it once; the advice takes it into account from then on."
      send="Keep it"
      onSend={(filled) => {
        const said = unknown.flatMap((hand) => {
          const answer = filled[hand];
          return answer === 'yes' || answer === 'no' ? [[hand, answer] as const] : [];
        });
        const body = { access: Object.fromEntries(said) };
        return api.editProperty({ params: { property: enrolment.property.id }, body });
      }}
    >
      {unknown.map((hand) => (
        <Choice
          key={hand}
          label={`Can they change ${HANDS[hand]}?`}
          name={hand}
          options={[
            ['', 'not known'],
            ['yes', 'yes'],
            ['no', 'no'],
          ]}
        />
      ))}
    </FormSheet>
  );
}

/** Which method to have placed, before anything is: why, and what each costs later. */
export function MethodAdvice({ enrolment }: { enrolment: Enrolment }) {
  const advice = useQuery({
    queryKey: ['advice', enrolment.id],
    queryFn: () => api.advice({ params: { enrolment: enrolment.id } }),
  });
  const one = advice.data?.items[0];
  if (!one) return null;
  return (
    <details className="mt-3 border-t border-rule pt-2">
      <summary className="cursor-pointer">
        <span className="font-semibold">Which method?</span>{' '}
        <span className="text-sm text-faint">
          {one.methods
            .filter(({ rank }) => rank === 'best')
            .map(({ method }) => `${TITLES[method]} would be best here`)
            .join()}
        </span>
      </summary>
      <ul className="mt-2 space-y-2 text-sm">
        {one.methods.map(({ method, rank, why, later }) => (
          <li key={method} className="grid gap-x-3 sm:grid-cols-[7rem_6rem_1fr]">
            <span className="font-semibold">{TITLES[method]}</span>
            <span className={rank === 'best' ? 'font-semibold text-good' : 'text-faint'}>{RANKS[rank]}</span>
            <span>
              {why.join(' ')} {rank !== 'cannot' && <span className="text-faint">{later}</span>}
            </span>
          </li>
        ))}
      </ul>
      {one.unknown.length > 0 && (
        <div className="mt-2">
          <TellAccess enrolment={enrolment} unknown={one.unknown} />
        </div>
      )}
    </details>
  );
}
