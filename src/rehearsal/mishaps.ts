import type { Method, WhatToPut } from '../api/documents.js';
import { site } from './scenario.js';
import type { SiteState } from './state.js';

type Put<Kind extends WhatToPut['kind']> = Extract<WhatToPut, { kind: Kind }>;

/** A client of the demo whose developer did something else than was asked for. */
export interface Mishap {
  readonly client: string;
  readonly handle: string;
  readonly site: SiteState;
  readonly engine: string;
  readonly reach: 'name' | 'address';
  readonly method: Method;
  /** What was done, as orders to the rehearsal. */
  readonly orders: (put: WhatToPut) => readonly object[];
}

interface Who {
  readonly client: string;
  readonly handle: string;
  readonly host: string;
  readonly words: string;
}

function byMeta(
  who: Who,
  engine: string,
  orders: (put: Put<'meta'>, host: string) => readonly object[],
): Mishap {
  return mishap(who, engine, 'address', 'meta', (put) => (put.kind === 'meta' ? orders(put, who.host) : []));
}

function byFile(
  who: Who,
  engine: string,
  orders: (put: Put<'file'>, host: string) => readonly object[],
): Mishap {
  return mishap(who, engine, 'address', 'file', (put) => (put.kind === 'file' ? orders(put, who.host) : []));
}

function byDns(who: Who, orders: (put: Put<'dns'>, name: string) => readonly object[]): Mishap {
  return mishap(who, 'veldrane', 'name', 'dns', (put) => (put.kind === 'dns' ? orders(put, put.zone) : []));
}

function mishap(
  { client, handle, host, words }: Who,
  engine: string,
  reach: Mishap['reach'],
  method: Method,
  orders: Mishap['orders'],
): Mishap {
  const made = site(host, client, words, { aliases: [`www.${host}`], sitemaps: { '/sitemap.xml': 24 } });
  return { client, handle, site: made, engine, reach, method, orders };
}

const who = (client: string, handle: string, host: string, words: string): Who => ({
  client,
  handle,
  host,
  words,
});
const HOUR = 3_600_000;
const page = (head: string, body: string) =>
  `<!doctype html>\n<html lang="en">\n<head>\n<title>Welcome</title>\n${head}\n</head>\n<body>\n${body}\n</body>\n</html>\n`;

/** What went wrong with a dozen clients more, each in a way of its own. */
export const MISHAPS: readonly Mishap[] = [
  byFile(
    who('Lantern & Lamp Works', 'lamps', 'lamp-works.example', 'Brass, glass and a steady flame.'),
    'veldrane',
    (put, host) => [
      // The content system put its page around the file.
      { do: 'file', host, path: put.path, content: page('', `<p>${put.content}</p>`), type: 'text/html' },
    ],
  ),
  byDns(
    who('Mesh & Marlin', 'nets', 'mesh-marlin.example', 'Nets mended while you wait for the tide.'),
    (put, name) => [{ do: 'txt', name: `${name}.${name}`, value: put.value }],
  ),
  byMeta(
    who('Kipper Lane Smokehouse', 'kippers', 'kipper-lane.example', 'Oak, smoke and patience.'),
    'ostrime',
    (put, host) => [
      { do: 'odd', host, keepMs: 9 * HOUR },
      { do: 'meta', host, tag: put.tag },
    ],
  ),
  byMeta(
    who('Sound Pilots', 'pilots', 'sound-pilots.example', 'We know where the bottom is.'),
    'veldrane',
    (put, host) => [
      { do: 'meta', host, tag: put.tag },
      { do: 'odd', host, certificate: 'expired' },
    ],
  ),
  byDns(
    who('Canvas & Thread Sailmakers', 'sails', 'canvas-thread.example', 'Cut by hand, sewn for weather.'),
    (put, name) => [
      { do: 'odd-name', name, rememberMs: 5 * HOUR },
      { do: 'txt', name, value: put.value },
    ],
  ),
  byDns(
    who(
      'Fathom Chandlery',
      'chandlers',
      'fathom-chandlery.example',
      'Everything that floats, and what holds it.',
    ),
    (put, name) => [{ do: 'odd-name', name, attic: put.value }],
  ),
  byDns(
    who('Dredge & Sons', 'dredgers', 'dredge-sons.example', 'Channels kept deep since the old pier.'),
    (put, name) => [
      { do: 'odd-name', name, lag: true },
      { do: 'txt', name, value: put.value },
    ],
  ),
  byMeta(
    who('The Oyster Bank', 'oysters', 'oyster-bank.example', 'Opened to order.'),
    'veldrane',
    (put, host) => [
      { do: 'meta', host, tag: put.tag },
      { do: 'odd', host, wall: true },
    ],
  ),
  byMeta(
    who('Gull Rock Guesthouse', 'gulls', 'gull-rock.example', 'Twelve rooms, all with a view.'),
    'veldrane',
    (put, host) => [{ do: 'meta', host, tag: `<meta name="${put.name}" content="“${put.content}”">` }],
  ),
  byMeta(
    who('Old Light Museum', 'light', 'old-light.example', 'Two hundred steps and a lamp.'),
    'veldrane',
    (put, host) => [
      { do: 'meta', host, tag: '<meta name="robots" content="noindex, nofollow">' },
      { do: 'meta', host, tag: put.tag },
    ],
  ),
  byMeta(
    who('Tide Table Press', 'tides', 'tide-tables.example', 'High water, to the minute.'),
    'veldrane',
    (_, host) => [
      {
        do: 'odd',
        host,
        answer: {
          path: '/',
          status: 200,
          body: page('', '<iframe src="https://pages.harbour-hosting.example/tides" width="100%"></iframe>'),
        },
      },
    ],
  ),
];
