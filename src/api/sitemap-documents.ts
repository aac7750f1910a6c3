import type { Finding } from './check-documents.js';
import type { Named } from './documents.js';
import type { EngineRef } from './engine-documents.js';

export interface Submission {
  id: string;
  enrolment: string;
  enrolmentName: string;
  engine: EngineRef;
  byHand: boolean;
  sentAs: string;
  submittedAt: string;
  engineReading: {
    at: string;
    readAt: string | null;
    found: number | null;
    listed: number | null;
    trouble: string | null;
    recordedBy: string | null;
  } | null;
  counts: {
    state: 'waiting' | 'overdue' | 'troubled' | 'equal' | 'apart';
    dueBy: string | null;
    gap: number | null;
  };
}

/** What came of asking an engine about one address, or for a visit to it. */
export interface PageAnswer {
  address: string;
  /** Null for a visit, of which nothing is known yet. */
  listed: boolean | null;
  visitedAt: string | null;
  left: number;
  ration: number;
}

export interface RationOfAccount {
  engine: EngineRef;
  account: string;
  lookups: { used: number; ration: number; left: number };
  visits: { used: number; ration: number; left: number };
  /** When the next day begins. */
  until: string;
}

/** A sitemap that was found at a property's front door. */
export interface FoundSitemap {
  url: string;
  /** Named by the robots.txt, under a usual name, linked as a feed, or noted before. */
  why: 'robots' | 'usual' | 'feed' | 'noted';
  kind: Reading['kind'];
  entries: number;
  /** The first thing that is wrong with it. */
  says: string | null;
  /** Whether it is the one to submit. */
  submit: boolean;
  noted: boolean;
}

export interface Reading {
  id: string;
  at: string;
  kind: 'urlset' | 'index' | 'rss' | 'atom' | 'text' | null;
  addresses: number;
  children: number;
  newestLastmod: string | null;
  findings: Finding[];
}

export interface Sitemap {
  id: string;
  property: Named;
  url: string;
  state: 'unread' | 'clean' | 'flawed' | 'unreachable';
  reading: Reading | null;
  submissions: Submission[];
  createdAt: string;
}

export interface NewSitemap extends Sitemap {
  note: string | null;
}
