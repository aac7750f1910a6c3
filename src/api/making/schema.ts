import Joi from 'joi';
import { CHOICES } from '../../core/sitemap/make/choose.js';
import {
  DATE_SOURCES,
  FREQUENCIES,
  MADE_EXTENSIONS,
  PAGE_KINDS,
  SOURCES,
  type Reach,
  type Recipe,
  type Selection,
  type Weighing,
} from '../../core/sitemap/make/recipe.js';
import { FOUND_BY, LEFT_OUT } from '../../core/sitemap/make/frontier.js';
import { finding } from '../checks/schema.js';
import {
  count,
  flag,
  id,
  list,
  maybe,
  maybeCount,
  maybeTime,
  named,
  oneOf,
  text,
  time,
} from '../parts/schema.js';
import type { Gathering, HandOut, MadePage, MadeVersion, Making, Preview } from './document.js';

export const pageState = oneOf(['waiting', 'in', 'out']);
export const whyText = oneOf([...LEFT_OUT, ...CHOICES]);
const texts = list(Joi.string().allow(''));

export const weighing = Joi.object<Weighing, true>({
  pattern: Joi.string().max(500),
  kind: oneOf(PAGE_KINDS).label('the kind of page'),
  depth: Joi.number().integer().min(0).max(1_000),
  priority: Joi.number().min(0).max(1),
  frequency: oneOf(FREQUENCIES),
}).or('priority', 'frequency');

const selection = Joi.object<Selection, true>({
  include: texts,
  exclude: texts,
  without: list(oneOf(PAGE_KINDS)),
  add: texts,
  drop: texts,
  most: maybeCount,
  dates: list(oneOf(DATE_SOURCES)),
  extensions: list(oneOf(MADE_EXTENSIONS)),
  weighing: list(weighing),
  gzip: flag,
  feed: oneOf(['atom', 'rss']).allow(null).required(),
}).required();

const recipe = Joi.object<Recipe, true>({
  sources: list(oneOf(SOURCES)),
  list: texts,
  feeds: texts,
  sitemaps: texts,
  reach: Joi.object<Reach, true>({
    pages: count,
    depth: count,
    minutes: count,
    megabytes: count,
    row: count,
    atOnce: maybeCount,
  }).required(),
  selection,
}).required();

const gathering = Joi.object<Gathering, true>({
  id,
  state: oneOf(['under-way', 'ended']).required(),
  startedAt: time,
  endedAt: maybeTime,
  ended: oneOf(['all', 'pages', 'minutes', 'megabytes']).allow(null).required(),
  found: count,
  read: count,
  waiting: count,
  leftOut: count,
  seconds: count,
  bytes: count,
  atOnce: count,
  delay: Joi.number().min(0).allow(null).required(),
}).id('Gathering');

const preview = Joi.object<Preview, true>({
  chosen: count,
  dated: count,
  kinds: list(
    Joi.object<Preview['kinds'][number], true>({
      kind: oneOf(PAGE_KINDS).required(),
      found: count,
      chosen: count,
    }),
  ),
  folders: list(Joi.object<Preview['folders'][number], true>({ folder: id, found: count, chosen: count })),
  foldersInAll: count,
  leftOut: list(
    Joi.object<Preview['leftOut'][number], true>({
      why: whyText.required(),
      says: id,
      count,
      examples: list(
        Joi.object<Preview['leftOut'][number]['examples'][number], true>({ url: id, detail: maybe }),
      ),
    }),
  ),
  findings: list(finding),
}).id('MakingPreview');

export const madeVersion = Joi.object<MadeVersion, true>({
  id,
  at: time,
  by: maybe,
  addresses: count,
  came: maybeCount,
  went: maybeCount,
  heldBack: maybe,
  findings: list(finding),
  files: list(Joi.object<MadeVersion['files'][number], true>({ name: id, bytes: count, entries: count })),
}).id('MadeVersion');

export const making = Joi.object<Making, true>({
  property: Joi.object<Making['property'], true>(named).required(),
  url: id,
  recipe,
  every: maybe,
  afterChange: maybe,
  nextAt: maybeTime,
  mostFall: count,
  listed: count,
  handedOutAt: maybe,
  gathering: gathering.allow(null).required(),
  preview: preview.allow(null).required(),
  versions: list(madeVersion),
}).id('Making');

export const madePage = Joi.object<MadePage, true>({
  url: id,
  state: pageState.required(),
  why: whyText.allow(null).required(),
  detail: maybe,
  kind: oneOf(PAGE_KINDS).allow(null).required(),
  title: maybe,
  depth: count,
  foundBy: oneOf(FOUND_BY).required(),
  lastmod: maybe,
  priority: Joi.number().allow(null).required(),
  frequency: oneOf(FREQUENCIES).allow(null).required(),
}).id('MadePage');

export const handOut = Joi.object<HandOut, true>({
  from: id,
  to: id,
  rules: list(
    Joi.object<HandOut['rules'][number], true>({
      server: id,
      how: oneOf(['proxy', 'redirect']).required(),
      text,
    }),
  ),
  engines: list(
    Joi.object<HandOut['engines'][number], true>({ engine: id, title: id, redirect: flag, says: id }),
  ),
}).id('HandOut');
