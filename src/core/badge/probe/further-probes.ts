import { textOf } from '../../html/body-text.js';
import { folderOf } from '../../address/web-address.js';
import type { ElsewhereKind, NearbyKind, PageSeen } from './evidence.js';
import { isPage } from './is-page.js';
import { mayBeCopy } from './copy-age.js';
import type { DnsPlacement, FilePlacement, MetaPlacement } from '../placement.js';

/** What is worth another look once the first has been taken. Nothing, where all is well: looks cost the client's server. */
export interface FurtherPages {
  /** Whether to fetch the same address past every cache. */
  readonly fresh: boolean;
  /** Whether to ask as a browser would, since we were kept out. */
  readonly asBrowser: boolean;
  /** A file that cannot exist, to learn how the website says so; null where that is not in question. */
  readonly madeUp: string | null;
  readonly elsewhere: readonly { readonly url: string; readonly kind: ElsewhereKind }[];
}

const KEPT_OUT = new Set([401, 403, 406, 429, 503]);
/** Nothing. */
export const NO_MORE: FurtherPages = { fresh: false, asBrowser: false, madeUp: null, elsewhere: [] };

/**
 * Plans the further looks for a page or a file.
 * @param stands whether the token was seen by the first look
 * @param word something nobody uses as a name, for the made-up neighbour
 * @param sentOn where the page sends its visitors on, if it does
 */
export function furtherPages(
  placement: MetaPlacement | FilePlacement,
  first: PageSeen,
  stands: boolean,
  word: string,
  sentOn: string | null = null,
): FurtherPages {
  const last = first.hops.at(-1);
  if (first.end !== 'answered' || !last) return { ...NO_MORE, elsewhere: variantOf(placement, stands) };
  if (last.status !== null && KEPT_OUT.has(last.status)) return { ...NO_MORE, asBrowser: true };
  if (stands) return { ...NO_MORE, fresh: mayBeCopy(last) };
  if (placement.method === 'meta')
    return {
      ...NO_MORE,
      fresh: last.status === 200,
      elsewhere: [
        ...(sentOn === null ? [] : [{ url: sentOn, kind: 'sent-on' as const }]),
        ...variantOf(placement, stands),
      ],
    };
  const isThere = last.status === 200;
  const isThemed = isThere && first.body !== null && isPage(textOf(first.body));
  return {
    ...NO_MORE,
    fresh: mayBeCopy(last),
    madeUp: isThemed ? new URL(`/${word}-${placement.fileName}`, placement.place).href : null,
    elsewhere: isThere && !isThemed ? [] : filePlaces(placement),
  };
}

/** The bare name for a `www.` host, and the reverse. */
function variantOf(placement: MetaPlacement | FilePlacement, stands: boolean): FurtherPages['elsewhere'] {
  if (stands || placement.method !== 'meta') return [];
  const url = new URL(placement.place);
  url.hostname = url.hostname.startsWith('www.') ? url.hostname.slice(4) : `www.${url.hostname}`;
  return [{ url: url.href, kind: 'other-variant' }];
}

/** Where people upload a file by mistake, and what their programs make of its name. */
function filePlaces(placement: FilePlacement): FurtherPages['elsewhere'] {
  const { place, home, fileName } = placement;
  const at = (base: string, name: string) => new URL(name, base).href;
  const folder = new URL(folderOf(new URL(place).pathname), place).href;
  const root = new URL('/', place).href;
  const named = (name: string, kind: ElsewhereKind) => ({ url: at(folder, name), kind });
  const ending = /\.[a-z0-9]+$/iu.exec(fileName)?.[0] ?? '';
  const all: { url: string; kind: ElsewhereKind }[] = [
    // For a property at the root, the root is only wrong where the file belongs into a folder such as /.well-known/.
    { url: at(home, fileName), kind: home === root ? 'folder-above' : 'property-folder' },
    { url: at(root, fileName), kind: 'root' },
    { url: at(new URL('..', home).href, fileName), kind: 'folder-above' },
    { url: at(root, `.well-known/${fileName}`), kind: 'well-known' },
    named(fileName.toLowerCase(), 'other-case'),
    named(fileName.toUpperCase(), 'other-case'),
    named(fileName.charAt(0).toUpperCase() + fileName.slice(1), 'other-case'),
    named(`${fileName}${ending === '' ? '.txt' : ending}`, 'other-ending'),
    named(`${fileName}.txt`, 'other-ending'),
    named(`${fileName}.html`, 'other-ending'),
    ...(ending === '' ? [] : [named(fileName.slice(0, -ending.length), 'other-ending' as const)]),
  ];
  const seen = new Set([place]);
  return all.filter(({ url }) => !seen.has(url) && seen.add(url));
}

/** Names under which a record lands by mistake. */
export function furtherNames(
  placement: DnsPlacement,
  otherLabels: readonly string[],
): readonly { readonly name: string; readonly kind: NearbyKind }[] {
  const { place, owner, zone } = placement;
  const label = place === owner ? null : place.slice(0, -(owner.length + 1));
  const under = (name: string) => (label === null ? name : `${label}.${name}`);
  const all: { name: string; kind: NearbyKind }[] = [
    { name: `${place}.${zone}`, kind: 'doubled' },
    // A panel that puts the label before the name by itself.
    ...(label === null ? [] : [{ name: `${label}.${place}`, kind: 'label-doubled' as const }]),
    {
      name: under(owner.startsWith('www.') ? owner.slice(4) : `www.${owner}`),
      kind: owner.startsWith('www.') ? 'parent' : 'www',
    },
    { name: under(zone), kind: 'parent' },
    ...(label === null ? [] : [{ name: owner, kind: 'no-label' as const }]),
    ...otherLabels.map((other) => ({ name: `${other}.${owner}`, kind: 'other-label' as const })),
    ...(label === null
      ? []
      : [{ name: `${label.replace(/^_/u, '')}.${owner}`, kind: 'other-label' as const }]),
  ];
  const seen = new Set([place]);
  return all.filter(({ name }) => name.length <= 253 && !seen.has(name) && seen.add(name));
}
