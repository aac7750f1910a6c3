import type { StepKind, Variant, VariantRole } from '../../../../api/documents.js';

const ROLES: Readonly<Record<VariantRole, string>> = {
  'front-door': 'front door',
  answers: 'answers by itself',
  leads: 'leads to the front door',
  elsewhere: 'leads elsewhere',
  framed: 'only a frame',
  closed: 'keeps visitors out',
  dark: 'dark',
  'broken-certificate': 'broken certificate',
};
const WAYS: Readonly<Record<StepKind, string>> = {
  permanent: '',
  temporary: ', temporarily',
  refresh: ', by a meta refresh',
  script: ', by a script',
};

/** What a variant is to its property, in few words. */
export function roleWords({ role, via }: Pick<Variant, 'role' | 'via'>): string {
  const isOnTheWay = role === 'leads' || role === 'elsewhere';
  return ROLES[role] + (isOnTheWay && via !== null ? WAYS[via] : '');
}

/** The enrolments over a variant, one for each engine: the best badge counts. */
export function bestCover({ cover }: Pick<Variant, 'cover'>): Variant['cover'] {
  const order = ['held', 'slipping', 'in-place', 'issued', 'bare', 'lost'];
  const best = new Map<string, Variant['cover'][number]>();
  for (const one of cover) {
    const before = best.get(one.engine.id);
    if (!before || order.indexOf(one.badge) < order.indexOf(before.badge)) best.set(one.engine.id, one);
  }
  return [...best.values()];
}

/** The variants as lines that a spreadsheet takes. */
export function asLines(items: readonly Variant[]): string {
  const rows = items.map((one) => [
    one.address,
    roleWords(one),
    one.says,
    one.endsAt ?? '',
    bestCover(one)
      .map(({ engine, badge }) => `${engine.title} ${badge}`)
      .join(', '),
  ]);
  return [['variant', 'role', 'what it does', 'ends at', 'covered at'], ...rows]
    .map((row) => row.map((cell) => cell.replace(/[\t\n]/gu, ' ').replace(/^[=+@-]/u, '’$&')).join('\t'))
    .join('\n');
}
