import type { Query } from '@tanstack/react-query';
import type { Changes } from '../api/documents.js';

/** Whether a change may be one of what a query shows: of some kinds of happenings, of one property, or of any. */
type Reads =
  | { readonly kinds: readonly string[] }
  /** The property is named in the query's key, or in what it read. */
  | { readonly property: (query: ShownQuery) => unknown }
  /** Every line of the journal, of one property where the key names one. */
  | 'journal'
  | 'any property';

type ShownQuery = Pick<Query, 'queryKey'> & { readonly state: { readonly data?: unknown } };

const inKey = { property: ({ queryKey }: ShownQuery) => queryKey[1] };

/** What each query of the console shows, by the first word of its key. */
const READS: Readonly<Record<string, Reads>> = {
  session: { kinds: ['person'] },
  clients: { kinds: ['client'] },
  engines: { kinds: ['engine', 'account', 'enrolment', 'job'] },
  rations: { kinds: ['page', 'account', 'engine'] },
  journal: 'journal',
  property: { property: ({ state }) => (state.data as { id?: string } | undefined)?.id },
  recipients: { kinds: ['recipient', 'person'] },
  webhooks: { kinds: ['webhook'] },
  reports: { kinds: ['report', 'client'] },
  links: { kinds: ['shared'] },
  handover: { kinds: ['handover', 'holders', 'account', 'job'] },
  'client reports': { kinds: ['report'] },
  letters: { kinds: ['letter', 'notification'] },
  drafts: { kinds: ['letter', 'contact', 'check', 'token'] },
  enrolments: inKey,
  'yard row': inKey,
  variants: inKey,
  fit: inKey,
  sitemap: {
    property: ({ state }) => (state.data as { property?: { id?: string } } | undefined)?.property?.id,
  },
};

/** Whether what a query shows may be another after these changes. */
export function isTouched(query: ShownQuery, { kinds, properties }: Changes): boolean {
  const [name, of] = query.queryKey;
  // The sitemaps of one property have its identifier in their key, those of all have what they are narrowed to.
  const reads =
    name === 'sitemaps' && typeof of === 'string' ? inKey : (READS[String(name)] ?? 'any property');
  if (reads === 'any property') return properties === null || properties.length > 0;
  if (reads === 'journal')
    return (
      kinds.some((kind) => kind !== 'job') &&
      (of === undefined || properties === null || properties.includes(String(of)))
    );
  if ('kinds' in reads) return kinds.some((kind) => reads.kinds.includes(kind));
  return properties === null || properties.includes(String(reads.property(query)));
}
