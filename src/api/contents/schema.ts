import Joi from 'joi';
import { SITEMAP_FORMATS } from '../../core/profile/profile.js';
import { count, flag, id, list, maybe, oneOf, text, time } from '../parts/schema.js';
import type {
  ContentsState,
  SitemapContents,
  SitemapUrl,
  SitemapFolder,
  SitemapOutline,
} from './document.js';

type Asked = SitemapUrl['asked'][number];
type Found = SitemapUrl['findings'][number];

const contents = Joi.object<ContentsState, true>({
  at: time,
  kind: oneOf(SITEMAP_FORMATS).allow(null).required(),
  entries: count,
  files: count,
  cut: flag,
}).id('Inside');

const entry = Joi.object<SitemapUrl, true>({
  nth: count,
  address: text,
  lastmod: maybe,
  file: id,
  line: count,
  findings: list(Joi.object<Found, true>({ code: id, says: id })),
  asked: list(
    Joi.object<Asked, true>({
      engine: id,
      listed: Joi.boolean().allow(null).required(),
      at: time,
      says: maybe,
    }),
  ),
}).id('SitemapUrl');

export const sitemapContents = Joi.object<SitemapContents, true>({
  contents,
  count,
  items: list(entry),
  next: maybe,
}).id('SitemapContents');

const folder = Joi.object<SitemapFolder, true>({ folder: text, own: count, total: count, hasBelow: flag }).id(
  'SitemapFolder',
);

export const sitemapOutline = Joi.object<SitemapOutline, true>({
  contents,
  folders: list(folder),
  more: flag,
  findings: list(Joi.object<SitemapOutline['findings'][number], true>({ code: id, says: id, count })),
  dated: count,
  newest: maybe,
  oldest: maybe,
}).id('SitemapOutline');
