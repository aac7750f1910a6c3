import type { Variant, Variants } from '../../../../api/documents.js';
import { TagMark } from '../../../parts/tag-mark.js';
import { bestCover, roleWords } from './words.js';

/** Heights and widths in CSS pixels: nodes are of one size, so that the arrows between them can be drawn without measuring. */
const NODE = 76;
const GAP = 12;
const ARROWS = 128;
/** A picture of more nodes than this says nothing any more: what is dark and unused stays in the table then. */
const MOST_NODES = 14;

const DASHES = { permanent: undefined, temporary: '7 5', refresh: '2 4', script: '2 4 8 4' } as const;

/** Where a line ends on the right: the front door first, then every other place to which variants lead. */
function endsOf(items: readonly Variant[], door: string | null): string[] {
  const others = items.flatMap(({ role, endsAt }) =>
    role === 'elsewhere' && endsAt !== null ? [endsAt] : [],
  );
  return [...new Set([...(door === null ? [] : [door]), ...others])];
}

function frameOf({ role, used, cover }: Variant): string {
  if (role === 'front-door') return 'border-2 border-accent bg-sheet';
  if (role === 'dark' || role === 'broken-certificate' || role === 'closed')
    return 'border border-dashed border-faint bg-paper text-faint';
  if (used && !cover.some(({ badge }) => badge === 'held' || badge === 'slipping'))
    return 'border border-harms bg-sheet';
  return 'border border-rule bg-sheet';
}

function Marks({ variant }: { variant: Variant }) {
  const best = bestCover(variant);
  if (best.length === 0) return variant.used ? <span className="text-harms">no badge</span> : null;
  return (
    <span className="flex gap-x-3 overflow-hidden">
      {best.map(({ engine, badge }) => (
        <span key={engine.id} title={`${engine.title}: ${badge}`}>
          <TagMark badge={badge} label={engine.title} />
          <span className="sr-only"> {badge}</span>
        </span>
      ))}
    </span>
  );
}

function Node({ variant }: { variant: Variant }) {
  return (
    <div style={{ height: NODE }} className={`overflow-hidden px-3 py-1.5 text-sm ${frameOf(variant)}`}>
      <p className="truncate font-mono" title={variant.forPeople}>
        {variant.forPeople}
      </p>
      <p className="truncate text-faint" title={variant.says}>
        {roleWords(variant)}
      </p>
      <Marks variant={variant} />
    </div>
  );
}

interface PictureProps {
  variants: Variants;
}

/** The variants as nodes, their ways as arrows to the front door, and what covers them as marks on the nodes. */
export function Picture({ variants }: PictureProps) {
  const { items, door } = variants;
  const sources = items.filter(({ role }) => role !== 'front-door');
  const left =
    items.length <= MOST_NODES ? sources : sources.filter(({ role, used }) => role !== 'dark' || used);
  const ends = endsOf(items, door.address);
  const tall = (count: number) => Math.max(0, count * (NODE + GAP) - GAP);
  const height = Math.max(tall(left.length), tall(ends.length));
  const leftTop = (height - tall(left.length)) / 2;
  const rightTop = (height - tall(ends.length)) / 2;
  const middle = (top: number, at: number) => top + at * (NODE + GAP) + NODE / 2;
  return (
    <figure
      className="max-md:hidden"
      aria-label="The variants and where they lead; the table has the same in words"
    >
      <div className="grid items-center" style={{ gridTemplateColumns: `1fr ${String(ARROWS)}px 1fr` }}>
        <div className="grid" style={{ gap: GAP }}>
          {left.map((one) => (
            <Node key={one.address} variant={one} />
          ))}
        </div>
        <svg width={ARROWS} height={height} aria-hidden="true" className="text-ink">
          <defs>
            <marker
              id="head"
              viewBox="0 0 8 8"
              refX="7"
              refY="4"
              markerWidth="8"
              markerHeight="8"
              orient="auto"
            >
              <path d="M0 0 8 4 0 8Z" fill="currentColor" />
            </marker>
          </defs>
          {left.map((one, at) => (
            <Arrow
              key={one.address}
              variant={one}
              from={middle(leftTop, at)}
              to={one.endsAt === null ? null : middle(rightTop, ends.indexOf(one.endsAt))}
            />
          ))}
        </svg>
        <div className="grid" style={{ gap: GAP }}>
          {ends.map((end) => {
            const own = items.find(({ address }) => address === end);
            return own ? <Node key={end} variant={own} /> : <Elsewhere key={end} address={end} />;
          })}
        </div>
      </div>
      <figcaption className="mt-2 flex flex-wrap gap-x-5 gap-y-1 text-[13px] text-faint">
        <Key dash={DASHES.permanent} says="permanent redirect" />
        <Key dash={DASHES.temporary} says="temporary redirect" />
        <Key dash={DASHES.refresh} says="meta refresh" />
        <Key dash={DASHES.script} says="script" />
        <span>⊣ answers by itself</span>
        <span>→× ends nowhere</span>
      </figcaption>
    </figure>
  );
}

function Arrow({ variant, from, to }: { variant: Variant; from: number; to: number | null }) {
  const { role, via } = variant;
  if (role === 'answers' || role === 'framed')
    return <path d={`M4 ${String(from)}h20m0-7v14`} stroke="currentColor" strokeWidth="1.5" />;
  if (to === null)
    return (
      <path
        d={`M4 ${String(from)}h24m-5-5 10 10m0-10-10 10`}
        fill="none"
        stroke="var(--faint)"
        strokeWidth="1.5"
      />
    );
  const far = ARROWS - 4;
  const bend = ARROWS / 2;
  return (
    <path
      d={`M4 ${String(from)}C${String(bend)} ${String(from)} ${String(bend)} ${String(to)} ${String(far)} ${String(to)}`}
      fill="none"
      stroke="currentColor"
      strokeWidth="1.5"
      strokeDasharray={via === null ? undefined : DASHES[via]}
      markerEnd="url(#head)"
    />
  );
}

/** A place to which a variant leads and that is none of the property's own. */
function Elsewhere({ address }: { address: string }) {
  return (
    <div
      style={{ height: NODE }}
      className="overflow-hidden border border-dotted border-faint px-3 py-1.5 text-sm"
    >
      <p className="truncate font-mono" title={address}>
        {address}
      </p>
      <p className="text-faint">not the front door</p>
    </div>
  );
}

function Key({ dash, says }: { dash: string | undefined; says: string }) {
  return (
    <span className="inline-flex items-center gap-1.5">
      <svg width="30" height="6" aria-hidden="true">
        <path d="M0 3h30" stroke="currentColor" strokeWidth="1.5" strokeDasharray={dash} />
      </svg>
      {says}
    </span>
  );
}
