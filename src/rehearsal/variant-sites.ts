import { site } from './scenario.js';
import { homePage } from './sites/pages.js';
import type { AnswerState, SiteState, VariantState } from './state.js';

/** A website whose addresses do not do what they should: `bare` and `www` by scheme, what is not told as usual. */
function crooked(
  name: string,
  title: string,
  words: string,
  variants: Readonly<Record<string, VariantState>>,
  more: Partial<SiteState> = {},
): SiteState {
  const host = `${name}.example`;
  const origin = (which: string) =>
    which
      .replace('bare', host)
      .replace('www', `www.${host}`)
      .replace(/^(https?) /, '$1://');
  const named = Object.fromEntries(Object.entries(variants).map(([which, does]) => [origin(which), does]));
  return site(host, title, words, { aliases: [`www.${host}`], ...more, variants: named });
}

/** The home page under the name of its file too. */
function withIndexFile(made: SiteState): SiteState {
  return { ...made, answers: { ...made.answers, '/index.html': { status: 200, body: homePage(made) } } };
}

const redirect = (to: string, status = 301): VariantState => ({ how: 'redirect', to, status });
const shown: AnswerState = { status: 200, body: '<!doctype html><title>Skiffs</title><p>Clinker built.' };
const PARKING = 'https://parking.harbour-hosting.example/';
const canonical = (url: string) => `<link rel="canonical" href="${url}">`;

/** Websites that show what may be wrong with variants, each something of its own. None is of a client of the demo. */
export const VARIANT_SITES: readonly SiteState[] = [
  crooked('tar-barrel', 'Tar Barrel Chandlers', 'Pitch, tar and turpentine by the barrel.', {
    'http bare': redirect('https://tar-barrel.example/', 302),
    'http www': { how: 'refresh', to: 'https://tar-barrel.example/' },
    'https www': { how: 'script', to: 'https://tar-barrel.example/' },
  }),
  crooked('slack-water', 'Slack Water Sauna', 'Hot stones between the tides.', {
    'http bare': { how: 'page' },
    'https bare': { how: 'down' },
    'https www': redirect('http://slack-water.example/'),
    'http www': redirect('http://slack-water.example/'),
  }),
  crooked('capstan-crew', 'Capstan Crew', 'Songs to heave by, every Thursday.', {
    'http www': redirect('https://www.capstan-crew.example/'),
    'https www': redirect('http://capstan-crew.example/'),
    'http bare': redirect('https://capstan-crew.example/'),
  }),
  crooked('twin-lights', 'Twin Lights Optics', 'Lenses ground for the far shore.', {
    'http bare': { how: 'page' },
    'http www': { how: 'page' },
    'https www': { how: 'page' },
  }),
  withIndexFile(
    crooked(
      'spray-hood',
      'Spray Hood Tailors',
      'Canvas against the weather.',
      { 'http bare': { how: 'page' } },
      { head: [canonical('https://spray-hood.example/')] },
    ),
  ),
  crooked('mudflat-walks', 'Mudflat Walks', 'Barefoot to the islands and back.', {
    'https www': { how: 'page', words: 'This name is parked here until somebody builds something on it.' },
    'http www': { how: 'status', status: 401 },
  }),
  crooked(
    'eel-trap',
    'Eel Trap Bistro',
    'Smoked, jellied, fried.',
    {
      'https www': redirect('https://shop.eel-trap.example/'),
      'http www': redirect(PARKING),
      'https://shop.eel-trap.example': { how: 'page', words: 'Tins and jars by post, four to a box.' },
    },
    {
      aliases: ['www.eel-trap.example', 'shop.eel-trap.example'],
      files: {
        '/robots.txt': {
          content: 'Sitemap: https://shop.eel-trap.example/sitemap.xml\n',
          type: 'text/plain',
        },
      },
    },
  ),
  crooked('winch-works', 'Winch Works', 'Forged, geared, greased.', {
    'http bare': redirect('https://winchworks.example/'),
    'https bare': redirect('https://winchworks.example/'),
    'http www': redirect('https://winchworks.example/'),
    'https www': redirect('https://winchworks.example/'),
  }),
  site('winchworks.example', 'Winchworks', 'The same winches under a shorter name.'),
  site('parking.harbour-hosting.example', 'Parked', 'Names wait here for their owners.'),
  crooked(
    'cork-float',
    'Cork Float Society',
    'For all who keep nets afloat.',
    { 'https www': { how: 'frame', to: 'https://cork-float.example/' } },
    {
      head: [
        canonical('http://cork-float.example/'),
        '<link rel="alternate" hreflang="fi" href="http://cork-float.example/">',
      ],
    },
  ),
  crooked(
    'ballast-bikes',
    'Ballast Bikes',
    'Cargo on two wheels.',
    {},
    {
      head: [canonical('https://bikes.harbour-hosting.example/ballast/')],
    },
  ),
  crooked('storm-cone', 'Storm Cone Coffee', 'Roasted when the cone is up.', {
    'https bare': {
      how: 'page',
      headers: { 'strict-transport-security': 'max-age=31536000; includeSubDomains' },
      certificate: 'ends-soon',
    },
    'https www': { how: 'page', certificate: 'other-name' },
    'http www': redirect('https://storm-cone.example/'),
  }),
  withIndexFile(
    crooked(
      'low-tide-radio',
      'Low Tide Radio',
      'On air when the water is out.',
      {
        'http www': redirect('http://low-tide-radio.example/'),
        'http bare': redirect('http://www.low-tide-radio.example/'),
      },
      {},
    ),
  ),
  site('pages.harbour-hosting.example', 'Harbour Hosting Pages', 'A folder for everyone.', {
    answers: {
      '/skiffs/': shown,
      '/skiffs': { status: 404, body: 'Nothing here' },
      '/dories/': shown,
      '/dories': { status: 200, body: '<!doctype html><p>Choose a folder, any folder.' },
    },
  }),
  site('net-loft.example', 'The Net Loft', 'Nets hung, tarred and let.', {
    aliases: ['shop.net-loft.example'],
  }),
  crooked('glass-float', 'Glass Float Studio', 'Blown by the old ice house.', {
    'https bare': { how: 'frame', to: 'https://pages.harbour-hosting.example/skiffs/' },
  }),
  site('fog-bell.example', 'Fog Bell Insurance', 'For what nobody saw coming.', { serves: 'down' }),
  crooked(
    'puffin-print',
    'Puffin Print',
    'Posters that stand the rain.',
    {},
    {
      files: { '/robots.txt': { content: 'User-agent: *\nDisallow: /\n', type: 'text/plain' } },
    },
  ),
  crooked('skerry-school', 'Skerry Sailing School', 'From knots to navigation.', {
    'https bare': { how: 'page', headers: { 'x-robots-tag': 'noindex' } },
  }),
  crooked(
    'kelp-soap',
    'Kelp Soap',
    'Green, slippery, good for you.',
    {},
    {
      head: ['<meta name="veldrane-reader" content="noindex">'],
    },
  ),
  crooked(
    'bilge-pumps',
    'Bilge & Pumps',
    'What comes in must go out.',
    {},
    {
      answers: { '/robots.txt': { status: 503, body: 'resting' } },
    },
  ),
];
