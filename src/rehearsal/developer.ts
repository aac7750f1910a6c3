import type { Placement } from '../api/documents.js';

/** What the client's developer does with a placement: the order to the rehearsal that puts it in place. */
export function orderFor(placement: Placement): object {
  const { put } = placement;
  if (put.kind === 'meta') return { do: 'meta', host: new URL(put.page).hostname, tag: put.tag };
  if (put.kind === 'file')
    return { do: 'file', host: new URL(put.url).hostname, path: put.path, content: put.content };
  return { do: 'txt', name: placement.place, value: put.value };
}
