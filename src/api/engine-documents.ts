import type { Method, Named, Reach } from './documents.js';
import type { PlanLine } from './variant-documents.js';

/** How an engine is worked: over the link, by a person's hand, by the house, or by way of another whose results it shows. */
export type WorkedBy = 'link' | 'hand' | 'house' | 'borrowed';

export interface EngineRef {
  id: string;
  title: string;
}

/** Something that an engine asks of a site at registration. */
export interface WantedFact {
  id: string;
  title: string;
  /** The answers that it takes; null for any. */
  oneOf: string[] | null;
}

/** How a link stands for one kind of work. */
export interface LinkState {
  work: string;
  state: 'answers' | 'waits' | 'unreached';
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

/** Whether an engine is worth it for a property, and why. */
export interface Fit {
  engine: EngineRef & { worked: WorkedBy };
  fits: boolean;
  why: string;
  /** The enrolments that there are already. */
  enrolled: string[];
  /** What it will ask at registration and nobody has told yet. */
  wants: WantedFact[];
  /** The enrolments that are worth having there, by the property's variants and the engine's reach rules. */
  plan: PlanLine[];
}

/** One enrolment met at an engine, beside what is recorded here. */
export interface Met {
  target: string;
  reach: Reach;
  ref: string;
  ownership: 'none' | 'held' | 'withdrawn';
  /** The property that it belongs to, where one fits. */
  property: Named | null;
  /** `known` here as it is there; `differs`; `new` here; `taken-over` just now; `no-property` fits it; `missing` at the engine. */
  state: 'known' | 'differs' | 'new' | 'taken-over' | 'no-property' | 'missing';
  says: string;
}

/** What was read out of something pasted. */
export interface PastedToken {
  enrolment: string;
  method: Method;
  token: string;
  /** The first one, the one known already, or another than before. */
  news: 'first' | 'same' | 'changed';
  notes: string[];
}

/** Which method to have placed for an enrolment, before anything is. */
export interface Advice {
  enrolment: { id: string; name: string };
  /** The best first. */
  methods: { method: Method; rank: 'best' | 'works' | 'cannot'; why: string[]; later: string }[];
  /** What nobody has said of what the client's people can get at. */
  unknown: ('zone' | 'files' | 'pages')[];
}
