/** How an engine of the rehearsal behaves. Its own data in its own words: the product's profile of it is another file. */
export interface EngineRules {
  readonly id: string;
  readonly title: string;
  /** Whether programs can speak to it; else only people, on its pages. */
  readonly hasLink: boolean;
  readonly reaches: readonly ('name' | 'address')[];
  /** What it must be told of a site before it enrols it. */
  readonly asks: readonly string[];
  readonly token: {
    readonly make: (random: Buffer) => string;
    readonly sharedByAccount: boolean;
    /** Hours that a token lives while nobody claims with it. */
    readonly livesHours: number | null;
  };
  /** Its tag, and which of several of that name it goes by; `alone` is content with none but one. */
  readonly meta: { readonly name: string; readonly takes: 'any' | 'first' | 'last' | 'alone' } | null;
  readonly file: {
    readonly path: (token: string) => string;
    readonly content: (token: string) => string;
  } | null;
  readonly dns: {
    readonly owner: (name: string) => string;
    readonly value: (token: string) => string;
  } | null;
  /** How far it follows redirects while it looks for a tag; a file's never leave the host. */
  readonly follows: 'nothing' | 'host' | 'domain';
  /** How many redirects it goes along with. */
  readonly followsAtMost: number;
  /** Whether white space around a value counts. */
  readonly everyByteCounts: boolean;
  readonly lookEveryHours: number;
  readonly graceHours: number;
  readonly sitemapForm: 'path' | 'address';
  readonly reads: readonly ('xml' | 'feed' | 'text')[];
  readonly mostSitemaps: number;
  /** Hours after submission at which it tries to read; the first tries may come to nothing. */
  readonly readsAfterHours: readonly number[];
  readonly failedFirstTries: number;
  /** Whether it is told of changes by the ping of the sitemaps.org protocol. */
  readonly takesPings: boolean;
  readonly lookupsADay: number;
  readonly visitsADay: number;
  /** Enrolments to a page of its list. */
  readonly pageSize: number;
}

const HEX_24 = (random: Buffer): string => random.toString('hex').slice(0, 24);
const HEX_32 = (random: Buffer): string => random.toString('hex').slice(0, 32);
const BASE64URL_22 = (random: Buffer): string => random.toString('base64url').slice(0, 22);
const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZabcdefghijkmnpqrstuvwxyz23456789';
const LETTERS_20 = (random: Buffer): string =>
  [...random.subarray(0, 20)].map((byte) => LETTERS[byte % LETTERS.length]).join('');

export const VELDRANE: EngineRules = {
  id: 'veldrane',
  title: 'Veldrane',
  hasLink: true,
  reaches: ['name', 'address'],
  asks: [],
  token: { make: HEX_24, sharedByAccount: false, livesHours: null },
  meta: { name: 'veldrane-mooring', takes: 'any' },
  file: { path: (token) => `/veldrane-${token}.txt`, content: (token) => `veldrane-mooring: ${token}` },
  dns: { owner: (name) => name, value: (token) => `veldrane-mooring=${token}` },
  follows: 'domain',
  followsAtMost: 5,
  everyByteCounts: false,
  lookEveryHours: 120,
  graceHours: 48,
  sitemapForm: 'path',
  reads: ['xml', 'feed', 'text'],
  mostSitemaps: 500,
  readsAfterHours: [2, 20],
  failedFirstTries: 1,
  takesPings: false,
  lookupsADay: 2000,
  visitsADay: 10,
  pageSize: 100,
};

export const OSTRIME: EngineRules = {
  id: 'ostrime',
  title: 'Ostrime',
  hasLink: true,
  reaches: ['address'],
  asks: [],
  token: { make: HEX_32, sharedByAccount: true, livesHours: null },
  meta: { name: 'ostrime-berth', takes: 'first' },
  file: { path: () => '/ostrime-berth.txt', content: (token) => token },
  dns: { owner: (name) => `_ostrime-challenge.${name}`, value: (token) => token },
  follows: 'host',
  followsAtMost: 5,
  everyByteCounts: false,
  lookEveryHours: 240,
  graceHours: 72,
  sitemapForm: 'address',
  reads: ['xml', 'feed', 'text'],
  mostSitemaps: 100,
  readsAfterHours: [18],
  failedFirstTries: 0,
  takesPings: true,
  lookupsADay: 100,
  visitsADay: 50,
  pageSize: 2,
};

export const SUNDREL: EngineRules = {
  id: 'sundrel',
  title: 'Sundrel',
  hasLink: true,
  reaches: ['address'],
  asks: ['kind', 'languages'],
  token: { make: BASE64URL_22, sharedByAccount: false, livesHours: 14 * 24 },
  meta: { name: 'sundrel-tally', takes: 'alone' },
  file: { path: (token) => `/.well-known/sundrel-${token}`, content: (token) => `sundrel-tally ${token}` },
  dns: null,
  follows: 'nothing',
  followsAtMost: 0,
  everyByteCounts: true,
  lookEveryHours: 72,
  graceHours: 0,
  sitemapForm: 'address',
  reads: ['xml'],
  mostSitemaps: 20,
  readsAfterHours: [40],
  failedFirstTries: 0,
  takesPings: false,
  lookupsADay: 50,
  visitsADay: 0,
  pageSize: 100,
};

export const BRINDLE: EngineRules = {
  id: 'brindle',
  title: 'Brindle',
  hasLink: false,
  reaches: ['address'],
  asks: [],
  token: { make: LETTERS_20, sharedByAccount: false, livesHours: null },
  meta: { name: 'brindle-plank', takes: 'last' },
  file: { path: (token) => `/brindle-${token}.html`, content: (token) => `brindle-plank: ${token}` },
  dns: { owner: (name) => name, value: (token) => `brindle-plank=${token}` },
  follows: 'host',
  followsAtMost: 5,
  everyByteCounts: false,
  lookEveryHours: 24 * 30,
  graceHours: 24 * 7,
  sitemapForm: 'address',
  reads: ['xml'],
  mostSitemaps: 10,
  readsAfterHours: [72],
  failedFirstTries: 0,
  takesPings: false,
  lookupsADay: 0,
  visitsADay: 0,
  pageSize: 100,
};

/** The engines of the rehearsal that have something of their own; one more shows Ostrime's results and is only a profile. */
export const REHEARSAL_ENGINES: readonly EngineRules[] = [VELDRANE, OSTRIME, SUNDREL, BRINDLE];
