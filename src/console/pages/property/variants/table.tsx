import type { Variant, Variants } from '../../../../api/documents.js';
import { CopyButton } from '../../../parts/copy-button.js';
import { TagMark } from '../../../parts/tag-mark.js';
import { When } from '../../../parts/when.js';
import { asLines, bestCover, roleWords } from './words.js';

const CELL = 'py-1.5 pr-4 align-top max-md:block max-md:py-0.5';

function certificateWords({ certificate, role }: Variant): string {
  if (!certificate) return '–';
  if (role === 'broken-certificate') return `by ${certificate.issuer}`;
  return `${String(certificate.daysLeft)} days`;
}

/** What else was seen of a variant. */
function Seen({ variant }: { variant: Variant }) {
  const { certificate, siblings } = variant;
  const facts: [string, string | null][] = [
    ['dialled', variant.dialled],
    ['status', variant.status === null ? variant.failure : String(variant.status)],
    ['certificate for', certificate && certificate.names.join(', ')],
    ['by', certificate && certificate.issuer],
    ['HSTS', variant.hsts],
    ['canonical', variant.canonical],
    [
      'siblings',
      siblings.length === 0 ? null : siblings.map(({ language, url }) => `${language} ${url}`).join(', '),
    ],
    ['X-Robots-Tag', variant.robotsHeader],
    ['robots', variant.stayAway.length === 0 ? null : variant.stayAway.join('; ')],
  ];
  return (
    <details className="text-[13px] text-faint">
      <summary className="cursor-pointer">What was seen</summary>
      <dl>
        {facts.map(
          ([name, value]) =>
            value !== null && (
              <div key={name}>
                <dt className="inline">{name}: </dt>
                <dd className="inline font-mono wrap-anywhere">{value}</dd>
              </div>
            ),
        )}
      </dl>
    </details>
  );
}

function Row({ variant }: { variant: Variant }) {
  const { forPeople, address, says, since, steps, why } = variant;
  return (
    <tr className="border-t border-rule max-md:block max-md:py-2">
      <th scope="row" className={`${CELL} max-w-72 text-left font-mono text-sm font-normal wrap-anywhere`}>
        {forPeople}
        {forPeople !== address && <span className="block text-[13px] text-faint">{address}</span>}
        {why !== 'usual' && why !== 'taken-on' && (
          <span className="block font-sans text-[13px] text-faint">
            {why === 'by-hand' ? 'added by hand' : `met in a ${why === 'canonical' ? 'canonical link' : why}`}
          </span>
        )}
      </th>
      <td className={`${CELL} text-sm`}>
        {roleWords(variant)}
        <span className="block text-[13px] text-faint">
          since <When time={since} />
        </span>
      </td>
      <td className={`${CELL} text-sm wrap-anywhere`}>
        {says}
        {steps.length > 1 && (
          <span className="block text-[13px] text-faint">
            by way of{' '}
            {steps
              .slice(0, -1)
              .map(({ to }) => to)
              .join(', ')}
          </span>
        )}
        <Seen variant={variant} />
      </td>
      <td className={`${CELL} text-sm tabular-nums`}>
        <span className="text-faint md:hidden">Certificate </span>
        {certificateWords(variant)}
      </td>
      <td className={`${CELL} text-sm`}>
        {bestCover(variant).map(({ engine, badge, enrolment }) => (
          <span key={enrolment} className="mr-3 block whitespace-nowrap">
            <TagMark badge={badge} label={`${engine.title}, ${badge}`} />
          </span>
        ))}
        {variant.used && variant.cover.length === 0 && <span className="text-harms">no badge</span>}
      </td>
    </tr>
  );
}

/** The variants for reading and copying. */
export function VariantTable({ variants }: { variants: Variants }) {
  const { items, spellings } = variants;
  const told = spellings.filter(({ outcome }) => outcome !== 'nothing');
  return (
    <section aria-label="Variants" className="mt-4">
      <div className="mb-1 flex items-center gap-3">
        <h2 className="mr-auto text-lg">All variants</h2>
        <CopyButton text={asLines(items)} what="the table, for a spreadsheet" />
      </div>
      <table className="w-full border-b border-rule bg-sheet max-md:block [&_td:last-child]:pr-3 [&_th:first-child]:pl-3 max-md:[&_td]:pl-3">
        <caption className="sr-only">The addresses by which the property answers</caption>
        <thead className="text-sm text-faint max-md:sr-only">
          <tr>
            {['Variant', 'Role', 'What it does', 'Certificate', 'Covered at'].map((title) => (
              <th scope="col" key={title} className="py-1.5 pr-4">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="max-md:block">
          {items.map((one) => (
            <Row key={one.address} variant={one} />
          ))}
        </tbody>
      </table>
      {told.length > 0 && (
        <p className="mt-2 text-sm text-faint">
          The front door written otherwise: {told.map(({ says }) => says).join('; ')}.
        </p>
      )}
    </section>
  );
}
