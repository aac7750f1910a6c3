import type { Frequency, PageKind, Recipe } from '../../core/sitemap/make/recipe.js';
import type { Choice } from '../../core/sitemap/make/choose.js';
import type { FoundBy, LeftOut } from '../../core/sitemap/make/frontier.js';
import type { Finding } from '../checks/document.js';
import type { Named } from '../parts/document.js';

/** How a property's sitemap is made, what was gathered for it, and what was written. */
export interface Making {
  property: Named;
  /** Where it stands once it is published. */
  url: string;
  /** Of its list of addresses the first hundred. */
  recipe: Recipe;
  /** How many addresses the list has. */
  listed: number;
  /** ISO 8601: how often it is made by itself; null where only by hand. */
  every: string | null;
  /** ISO 8601: how long after the last making it is made anew once a feed or a sitemap of the website has changed; null where it is not. */
  afterChange: string | null;
  /** When it is made next by itself. */
  nextAt: string | null;
  /** By how many parts of a hundred it may fall without somebody's yes. */
  mostFall: number;
  /** Where the service itself hands it out; null where it does not. */
  handedOutAt: string | null;
  gathering: Gathering | null;
  preview: Preview | null;
  /** Newest first. */
  versions: MadeVersion[];
}

export interface Gathering {
  id: string;
  state: 'under-way' | 'ended';
  startedAt: string;
  endedAt: string | null;
  /** Why it ended: there was no more, or a bound was met. */
  ended: 'all' | 'pages' | 'minutes' | 'megabytes' | null;
  found: number;
  read: number;
  waiting: number;
  leftOut: number;
  seconds: number;
  bytes: number;
  /** Requests that it made at once, as far as the website bore them. */
  atOnce: number;
  /** Seconds that it waits between two requests, as the robots.txt asks (`Crawl-delay`); null where nothing is asked. */
  delay: number | null;
}

/** What would be written, by what it is. */
export interface Preview {
  chosen: number;
  /** How many of them have a date. */
  dated: number;
  kinds: { kind: PageKind; found: number; chosen: number }[];
  /** The largest first. */
  folders: { folder: string; found: number; chosen: number }[];
  foldersInAll: number;
  leftOut: {
    why: LeftOut | Choice;
    says: string;
    count: number;
    examples: { url: string; detail: string | null }[];
  }[];
  findings: Finding[];
}

export interface MadeVersion {
  id: string;
  at: string;
  by: string | null;
  addresses: number;
  came: number | null;
  went: number | null;
  /** Why it is not handed out before somebody says yes. */
  heldBack: string | null;
  findings: Finding[];
  files: { name: string; bytes: number; entries: number }[];
}

/** One address that was gathered. */
export interface MadePage {
  url: string;
  state: 'waiting' | 'in' | 'out';
  /** Why it does not go in; null where it does. */
  why: LeftOut | Choice | null;
  detail: string | null;
  kind: PageKind | null;
  title: string | null;
  depth: number;
  foundBy: FoundBy;
  /** What is said of it. */
  lastmod: string | null;
  priority: number | null;
  frequency: Frequency | null;
}

/** How a website hands on a sitemap that stands at the service. */
export interface HandOut {
  /** Where engines look for it, and where it stands. */
  from: string;
  to: string;
  rules: { server: string; how: 'proxy' | 'redirect'; text: string }[];
  engines: { engine: string; title: string; redirect: boolean; says: string }[];
}
