import type { Reach } from '../address/reach.js';

export const METHODS = ['meta', 'file', 'dns'] as const;
export type Method = (typeof METHODS)[number];

/** How strictly an engine compares what stands with what should: byte by byte, or with outer white space off. */
export type Comparison = 'exact' | 'trimmed';

/** Where several of one name stand, which of them an engine reads: any, the first, the last, or one only where it stands alone. */
export const MANY_RULES = ['any', 'first', 'last', 'one'] as const;
export type ManyRule = (typeof MANY_RULES)[number];

/** Which redirects an engine follows while it looks for a token. */
export type RedirectRule = 'none' | 'host' | 'registrable';

/** What an engine does with redirects on its way to a token. */
interface Following {
  readonly redirects: RedirectRule;
  /** How many it follows. */
  readonly mostRedirects: number;
}

export interface MetaRule extends Following {
  /** The `name` attribute of the meta element. */
  readonly name: string;
  /** The `content` attribute, with `{token}` where the token goes. */
  readonly content: string;
  readonly compare: Comparison;
  /** Which it reads of several tags of that name. */
  readonly many: ManyRule;
  readonly reaches: readonly Reach[];
  /** Whether the engine reads the page as one that runs scripts; absent where nobody knows. */
  readonly scripting?: boolean;
}

export interface FileRule extends Following {
  /** Whether the path begins at the root of the host, or at the property's own folder. */
  readonly base: 'root' | 'folder';
  /** Path, with `{token}` where the token goes, if it does. */
  readonly path: string;
  readonly content: string;
  readonly compare: Comparison;
  readonly reaches: readonly Reach[];
}

export interface DnsRule {
  /** A label put before the name (RFC 8552), or null where the record stands at the name itself. */
  readonly label: string | null;
  readonly value: string;
  readonly compare: Comparison;
  /** Whether it reads any of several records at that name, or one only where it stands alone. Records have no order (RFC 2181 §5). */
  readonly many: Extract<ManyRule, 'any' | 'one'>;
  readonly reaches: readonly Reach[];
}

export interface MethodRules {
  readonly meta?: MetaRule;
  readonly file?: FileRule;
  readonly dns?: DnsRule;
}

export const SITEMAP_FORMATS = ['urlset', 'index', 'rss', 'atom', 'text'] as const;
export type SitemapFormat = (typeof SITEMAP_FORMATS)[number];

/** How an engine is worked: over the link, by a person’s hand, by the house, or by way of another whose results it shows. */
export const WAYS_OF_WORKING = ['link', 'hand', 'house', 'borrowed'] as const;
export type WorkedBy = (typeof WAYS_OF_WORKING)[number];

export interface SitemapRules {
  /** Whether the engine wants the path alone or the whole address. */
  readonly form: 'path' | 'address';
  readonly formats: readonly SitemapFormat[];
  /** How many sitemaps it takes for one enrolment. */
  readonly limit: number;
  /** ISO 8601: when a first reading is due after submission. */
  readonly firstReading: string;
  /** Whether it is told of changes by the sitemaps.org ping. */
  readonly ping: boolean;
  /** Whether it takes sitemaps only after the claim was confirmed. */
  readonly needsBadge: boolean;
  /** Whether it asks for a sitemap when a site is registered. */
  readonly atRegistration: boolean;
}

/** How an engine is worked: over the link, by hand, or by the house itself. */
export type Working =
  | {
      readonly how: 'link';
      readonly base: string;
      /** The environment variable that holds the key of the agency's own account. */
      readonly keyFrom?: string;
    }
  | { readonly how: 'hand' }
  | { readonly how: 'house' };

/** Something that an engine wants to know of a site when it is registered. */
export interface WantedFact {
  /** The same for every engine that asks the same thing, so that it is asked for once. */
  readonly id: string;
  /** What to ask a person for. */
  readonly title: string;
  /** The answers that it takes; any short text where absent. */
  readonly oneOf?: readonly string[];
  /** What kind of answer it takes, where that is more than any short text. */
  readonly form?: 'languages';
}

/** What a token of this engine looks like, as far as it always looks so. */
export interface TokenShape {
  readonly signs: 'hex' | 'alphanumeric' | 'base64url';
  readonly length: number;
}

interface EngineNamed {
  readonly id: string;
  readonly title: string;
  /** Countries by ISO 3166-1 alpha-2 code, or everyone. */
  readonly audience: 'everyone' | readonly string[];
  /** Per cent of the searches by country, `everywhere` for the rest. */
  readonly share: Readonly<Record<string, number>>;
}

/** The rules of one engine, as data. Read from a profile file; nothing else in the product knows an engine. */
export interface EngineProfile extends EngineNamed {
  readonly worked: Working;
  readonly reaches: readonly Reach[];
  readonly facts: readonly WantedFact[];
  readonly token: {
    readonly per: 'enrolment' | 'account';
    /** ISO 8601: how long a token lives while nobody claims with it. */
    readonly livesUnclaimed?: string;
    readonly shape?: TokenShape;
  };
  readonly methods: MethodRules;
  /** Absent where nobody knows. */
  readonly keeps?: {
    /** ISO 8601: how often it looks for the token again. */
    readonly looksEvery: string;
    /** ISO 8601: how long it lets a missing token pass. */
    readonly grace: string;
  };
  readonly sitemaps?: SitemapRules;
  /** The name by which its fetcher calls itself: websites speak to it alone by that (RFC 9309 §2.2.1). */
  readonly agent?: string;
  /** How many addresses may be looked up in a day, and how many visits asked for; 0 where it takes none. */
  readonly lookupsADay: number;
  readonly visitsADay: number;
}

/** An engine that shows another's results: nothing is to be done but with that other one. */
export interface BorrowingProfile extends EngineNamed {
  readonly worked: { readonly how: 'borrowed'; readonly from: string };
}

export type Profile = EngineProfile | BorrowingProfile;

export function isBorrowing(profile: Profile): profile is BorrowingProfile {
  return profile.worked.how === 'borrowed';
}

/** The methods by which an engine takes a proof for a reach, in the order in which the product proposes them. */
export function methodsFor(profile: EngineProfile, reach: Reach): Method[] {
  return METHODS.filter((method) => profile.methods[method]?.reaches.includes(reach) === true);
}
