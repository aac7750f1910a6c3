import type { CatalogueEntry } from '../finding.js';

/** What an engine made of a sitemap, and how it was made known there. What is to be done is ours, not the client's. */
export const SITEMAP_AT_ENGINE = {
  'sitemap.engine-apart': {
    grade: 'harms',
    says: '{engine} found another number of addresses in {url} than there are: {found}, our own reading {ours}, apart by {gap} since {since}.',
    remedy: 'Compare the readings of {url}, and look up at {engine} what it lacks.',
  },
  'sitemap.engine-behind': {
    grade: 'note',
    says: '{engine} was last at {url} on {read} and found what was there then, {found}; by now there are {ours}.',
    remedy: '',
  },
  'sitemap.listed-low': {
    grade: 'harms',
    says: '{engine} lists {listed} of the {found} addresses that it found in {url}.',
    remedy: 'Look up addresses of {url} at {engine} that it does not list.',
  },
  'sitemap.engine-overdue': {
    grade: 'harms',
    says: '{engine} was to read {url} by {due} and has not; our own reading finds nothing that would keep it.',
    remedy: 'Submit {url} to {engine} again.',
  },
  'sitemap.engine-troubled': {
    grade: 'harms',
    says: '{engine} says of {url}: “{trouble}”; our own reading finds nothing that would keep it, so this is the engine’s own trouble.',
    remedy: 'Wait for {engine}’s next reading, or withdraw {url} there and submit it again.',
  },
  'sitemap.engine-kept': {
    grade: 'harms',
    says: '{engine} cannot read {url} before it is mended: {why}',
    remedy: 'Have {url} mended first; {engine} reads it again by itself.',
  },
  'sitemap.beside-index': {
    grade: 'harms',
    says: '{url} is submitted to {engine} beside the index {index} that holds it; the index is enough.',
    remedy: 'Withdraw {url} from {engine}.',
  },
  'sitemap.sent-twice': {
    grade: 'harms',
    says: '{url} is known to {engine} twice, by {other} as well.',
    remedy: 'Withdraw {url} from {engine}.',
  },
  'sitemap.feed-alone': {
    grade: 'harms',
    says: '{engine} knows only the feed {url}, which has the newest pages alone.',
    remedy: 'Submit a sitemap of all pages to {engine} beside {url}.',
  },
} as const satisfies Record<string, CatalogueEntry>;
