import type { LinkStateKind } from '../../core/record/states.js';
import type { EngineRef, Method, Named, Reach } from '../parts/document.js';
import type { WorkedBy } from './document.js';

/** How an engine is worked: over the link, by a person's hand, by the house, or by way of another whose results it shows. */
export type { WorkedBy } from '../../core/profile/profile.js';

/** Something that an engine asks of a site at registration. */
export interface WantedFact {
  id: string;
  title: string;
  /** The answers that it takes; null for any. */
  oneOf: string[] | null;
  /** What kind of answer it takes: languages by code (ISO 639-1) or name; null for any short text. */
  form: 'languages' | null;
}

/** How a link stands for one kind of work. */
export interface LinkState {
  work: string;
  state: LinkStateKind;
  says: string | null;
  until: string | null;
  since: string;
  at: string;
}

export interface Account {
  id: string;
  engine: string;
  name: string;
  /** Where its key comes from; the key itself is told to nobody. */
  key: { from: 'environment' | 'sealed' | 'none' | 'not-needed'; variable: string | null; ready: boolean };
  passedOn: { at: string; to: Named & { name: string } } | null;
  enrolments: number;
  links: LinkState[];
  createdAt: string;
  version: number;
}

export interface Engine extends EngineRef {
  audience: 'everyone' | string[];
  /** Per cent of the searches by country, `everywhere` for the rest. */
  share: Record<string, number>;
  worked: WorkedBy;
  /** The engine whose results it shows, if it shows another's. */
  from: EngineRef | null;
  reaches: Reach[];
  methods: Method[];
  facts: WantedFact[];
  takesSitemaps: boolean;
  /** Its rules in words. */
  rules: string[];
  accounts: Account[];
}
