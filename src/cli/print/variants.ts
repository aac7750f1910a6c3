import type { Variant, Variants } from '../../api/documents.js';
import { badge } from './badge-mark.js';
import { table, type Cell } from './table.js';
import { paint, paragraph, plain, say, when } from './text.js';
import { writtenDay } from '../../api/formats.js';

/** What a variant is to its property, in the fewest words. */
function roleWords({ role, via }: Variant): string {
  if (role === 'front-door') return 'front door';
  if (role === 'broken-certificate') return 'broken certificate';
  return role === 'leads' && via !== null && via !== 'permanent' ? `leads, ${via}` : role;
}

function coverWords({ cover, used }: Variant): Cell {
  const byEngine = new Map<string, string>();
  for (const { engine, badge: standing } of cover) {
    const before = byEngine.get(engine.id);
    if (before === undefined || standing === 'held') byEngine.set(engine.id, badge(standing));
  }
  const words = [...byEngine].map(([engine, standing]) => `${engine} ${standing}`);
  return words.length === 0 && used ? 'nothing' : words;
}

function certificateWords({ certificate, role }: Variant): string {
  if (!certificate) return '–';
  return role === 'broken-certificate' ? certificate.issuer : `${String(certificate.daysLeft)} d`;
}

function printFindings({ findings }: Variants): void {
  for (const { grade, says, remedy, since } of findings) {
    const colour = grade === 'stops' ? paint.red : grade === 'harms' ? paint.magenta : paint.dim;
    const from = since === null ? '' : ` (since ${when(since)})`;
    paragraph(`${grade.padEnd(5)}  `, plain(says) + from, colour);
    if (remedy !== '') paragraph('       → ', plain(remedy));
  }
}

function printMove({ move }: Variants): void {
  if (!move) return;
  say();
  paragraph('', `${plain(move.says)} Seen ${when(move.at)} UTC.`);
  for (const { says, done } of move.follows) paragraph(done ? '  ✓ ' : '  ○ ', plain(says));
}

/** What was so before: roles that changed, findings that hold no more. */
export function printHistory({ history, mended }: Variants): void {
  say();
  table(
    ['before', 'was', 'from', 'until'],
    history.map((one) => [one.forPeople, one.says, when(one.since), when(one.until)]),
    'No variant has changed its role yet.',
  );
  for (const { says, since, until } of mended)
    paragraph('  ', `${plain(says)} From ${when(since)} until ${when(until)}.`, paint.dim);
}

/** The variants of a property: one table, then what was found, and the newest move. */
export function printVariants(one: Variants): void {
  table(
    ['variant', 'role', 'what it does', 'certificate', 'covered at'],
    one.items.map((variant) => [
      variant.forPeople,
      roleWords(variant),
      variant.says,
      certificateWords(variant),
      coverWords(variant),
    ]),
    'Nobody has looked at its variants yet.',
  );
  say(paint.dim(`Looked at ${when(one.seenAt)} UTC.`));
  const others = one.spellings.filter(({ outcome }) => outcome !== 'nothing');
  if (others.length > 0)
    paragraph('Other ways of writing: ', others.map(({ says }) => plain(says)).join('; '));
  say();
  printFindings(one);
  printMove(one);
}

/** Everything that was seen of each variant, one under the other. */
export function printWhatWasSeen({ items }: Variants): void {
  for (const one of items) {
    say();
    say(paint.bold(plain(one.forPeople)));
    const { certificate } = one;
    const facts: [string, string | null][] = [
      ['dialled', one.dialled],
      ['failed', one.failure],
      ['status', one.status === null ? null : String(one.status)],
      ...one.steps.map(({ kind, status, to }): [string, string] => [
        `${String(status ?? '')} ${kind}`,
        `→ ${to}`,
      ]),
      [
        'certificate',
        certificate &&
          `for ${certificate.names.join(', ')}, by ${certificate.issuer}, until ${writtenDay(certificate.validUntil)}`,
      ],
      ['HSTS', one.hsts],
      ['canonical', one.canonical],
      ...one.siblings.map(({ language, url }): [string, string] => [`hreflang ${language}`, url]),
      ['X-Robots-Tag', one.robotsHeader],
      ...one.stayAway.map((tag): [string, string] => ['meta', tag]),
    ];
    for (const [name, value] of facts)
      if (value !== null) paragraph(`  ${plain(name).padEnd(14)}  `, plain(value));
  }
}
