import { useQuery } from '@tanstack/react-query';
import type { Move, Property, Variants } from '../../../api/documents.js';
import { api } from '../../api.js';
import { CopyButton } from '../../parts/copy-button.js';
import { Notice } from '../../parts/notice.js';
import { When } from '../../parts/when.js';

/** A move of the front door, for as long as something that follows from it is not done. */
function Moved({ move }: { move: Move }) {
  if (move.follows.every(({ done }) => done)) return null;
  return (
    <Notice kind="harms">
      {move.says} Seen <When time={move.at} />. What follows:
      <ul className="mt-1 space-y-0.5 text-sm">
        {move.follows.map(({ says, done }) => (
          <li key={says} className={done ? 'text-faint' : ''}>
            <span aria-hidden="true">{done ? '✓ ' : '○ '}</span>
            <span className="sr-only">{done ? 'Done: ' : 'To do: '}</span>
            {says}
          </li>
        ))}
      </ul>
    </Notice>
  );
}

/** Variants that visitors use and no held badge covers, each with the engines where it is so. */
function Missed({ variants }: { variants: Variants }) {
  const { cover, items } = variants;
  const missed = items.flatMap(({ address, forPeople }) => {
    const engines = cover.filter((one) => one.missed.includes(address)).map(({ engine }) => engine.title);
    return engines.length === 0 ? [] : [`${forPeople} at ${engines.join(', ')}`];
  });
  if (missed.length === 0) return null;
  return <Notice kind="harms">No held badge covers what visitors use: {missed.join('; ')}.</Notice>;
}

/** What makes all other work on a property void, or will: told on its first screen, whatever tab is open. */
export function StandingInTheWay({ property }: { property: Property }) {
  const query = useQuery({
    queryKey: ['variants', property.id],
    queryFn: () => api.showVariants({ params: { property: property.id } }),
  });
  const variants = query.data;
  if (!variants) return null;
  const stops = variants.findings.filter(({ grade }) => grade === 'stops');
  return (
    <div className="mt-3 space-y-2 empty:hidden">
      {stops.map(({ code, says, remedy, since }) => (
        <Notice key={code + says} kind="stops">
          {says}
          {since !== null && (
            <span className="text-faint">
              {' '}
              Since <When time={since} />.
            </span>
          )}
          {remedy !== '' && (
            <span className="mt-1 flex flex-wrap items-start gap-3 text-sm sm:flex-nowrap">
              <span className="min-w-0 grow border-l-2 border-accent pl-2 wrap-anywhere max-sm:w-full">
                {remedy}
              </span>
              <CopyButton text={remedy} what="the sentence for the developer" />
            </span>
          )}
        </Notice>
      ))}
      {variants.move && <Moved move={variants.move} />}
      <Missed variants={variants} />
    </div>
  );
}
