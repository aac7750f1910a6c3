import { useId } from 'react';
import type { Badge } from '../../api/documents.js';

const OUTLINE = 'M1 5 6 1h17v14H6L1 11Z';
/** How far the ink has risen in the tag, from its right edge, of 24. */
const INK: Readonly<Record<Badge, number>> = {
  bare: 24,
  issued: 17,
  'in-place': 10,
  held: 0,
  slipping: 0,
  lost: 0,
};
const TONE: Readonly<Record<Badge, string>> = {
  bare: 'text-faint',
  issued: 'text-accent',
  'in-place': 'text-accent',
  held: 'text-good',
  slipping: 'text-harms',
  lost: 'text-stops',
};

/** A badge as a luggage tag: outline, filling, full; cracked when slipping, torn when lost. Its word always stands beside it. */
export function TagMark({ badge, label }: { badge: Badge; label?: string }) {
  // Of its own: one that is taken from a mark in a folded part of the page cuts nothing.
  const clip = useId();
  return (
    <span className={`inline-flex items-center gap-1.5 whitespace-nowrap ${TONE[badge]}`}>
      <svg width="24" height="16" viewBox="0 0 24 16" aria-hidden="true" className="shrink-0">
        <clipPath id={clip}>
          {badge === 'lost' ? (
            <path d="M0 0h13l-3 4 4 3-4 4 3 5H0Z" />
          ) : (
            <rect x={INK[badge]} y="0" width="24" height="16" />
          )}
        </clipPath>
        <path d={OUTLINE} fill="currentColor" clipPath={`url(#${clip})`} />
        <path
          d={OUTLINE}
          fill="none"
          stroke="currentColor"
          strokeWidth="1.4"
          strokeDasharray={badge === 'lost' ? '2 2' : undefined}
        />
        <circle
          cx="6.5"
          cy="8"
          r="1.6"
          fill={INK[badge] > 6 ? 'none' : 'var(--sheet)'}
          stroke="currentColor"
          strokeWidth="1"
        />
        {badge === 'slipping' && (
          <path d="m15 0-3 5 4 3-4 3 3 5" fill="none" stroke="var(--sheet)" strokeWidth="1.8" />
        )}
      </svg>
      <span className="text-sm">{label ?? badge}</span>
    </span>
  );
}
