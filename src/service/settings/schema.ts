import Joi from 'joi';
import ipaddr from 'ipaddr.js';
import { UNNAMED_AGENCY } from '../../core/report/report-formats.js';
import { CLAIMS_BY, type ClaimsBy } from '../../core/record/states.js';
import { MOST_AT_ONCE } from '../../core/sitemap/make/recipe.js';
import { USUAL_RHYTHMS } from '../../core/watch/rhythm.js';
import { durationMs } from '../../core/time/duration.js';
import type { PublishSettings, SitemapSettings, WatchSettings } from '../../desk/context/desk.js';
import type { MailSettings } from '../../net/mail.js';
import type { KeepSettings } from '../../desk/history/tidying.js';
import { DEFAULT_BOUNDS, parseEndpoint } from '../../net/settings.js';

function endpoint(value: string): string {
  parseEndpoint(value);
  return value;
}

function range(value: string): string {
  ipaddr.parseCIDR(value);
  return value;
}

const duration = (usual: string) =>
  Joi.string()
    .custom((value: string) => {
      durationMs(value);
      return value;
    })
    .messages({ 'any.custom': '{#label} must be an ISO 8601 duration such as P60D or P104W' })
    .default(usual);
const milliseconds = Joi.number().integer().min(50).max(600_000);
const endpointText = Joi.string()
  .custom(endpoint)
  .messages({ 'any.custom': '{#label} must be host:port, such as 127.0.0.1:7480 or *:443' });

/** The configuration file, key by key. */
export const settingsSchema = Joi.object({
  listen: Joi.object({
    host: Joi.string().hostname().default('127.0.0.1'),
    port: Joi.number().port().default(7420),
  }).default(),
  /** The address by which people come, where a proxy stands before the service. */
  publicUrl: Joi.string()
    .uri({ scheme: ['http', 'https'] })
    .allow(null)
    .default(null),
  /** The proxies whose X-Forwarded-For is believed: addresses or ranges. */
  trustProxy: Joi.array()
    .items(Joi.string().ip({ cidr: 'optional' }))
    .default([]),
  /** The environment variables that a profile or an account may name as its key; `*` at the end for any more. */
  keyVariables: Joi.array()
    .items(Joi.string().pattern(/^[A-Z][A-Z0-9_]*\*?$/u))
    .default(['YARDBADGE_KEY_*']),
  /** Hosts of engines' links that may be spoken without TLS; a domain stands for all below it. */
  plainLinks: Joi.array().items(Joi.string().hostname().lowercase()).default([]),
  data: Joi.string().default('./yardbadge.sqlite'),
  /** A file that tells the time in place of the machine's clock: the rehearsal's fast clock. */
  clock: Joi.string().allow(null).default(null),
  engines: Joi.string().allow(null).default(null),
  /** Where the key lies by which accounts' keys are sealed; made at the first use. */
  keyFile: Joi.string().default('./yardbadge.key'),
  log: Joi.valid('silent', 'error', 'warn', 'info', 'debug').default('info'),
  sitemaps: Joi.object({
    /** How many pages of a sitemap are tried at each reading. */
    sample: Joi.number().integer().min(0).max(1_000).default(50),
    /** How long every reading is kept, and how long one a week. */
    keepAll: duration('P60D'),
    keepWeekly: duration('P104W'),
    /** Requests at once that a website gets at the most while its pages are gathered, where it answers quickly. */
    atOnce: Joi.number().integer().min(1).max(MOST_AT_ONCE).default(8),
    /** The namespaces of the extensions of made sitemaps, as those who read them have published them. */
    namespaces: Joi.object({
      images: Joi.string().uri().default('https://sitemap-extensions.example/image/1.1'),
      videos: Joi.string().uri().default('https://sitemap-extensions.example/video/1.1'),
      news: Joi.string().uri().default('https://sitemap-extensions.example/news/0.9'),
    }).default(),
    /** Of sitemaps with more addresses than this the counts are kept, not the addresses. */
    keepAddresses: Joi.number().integer().min(0).max(10_000_000).default(1_000_000),
  }).default(),
  /** Whether things are looked at by themselves, and how often. */
  watch: Joi.object({
    on: Joi.boolean().default(true),
    placement: duration(USUAL_RHYTHMS.placement),
    variants: duration(USUAL_RHYTHMS.variants),
    sitemap: duration(USUAL_RHYTHMS.sitemap),
  }).default(),
  /** Whether claims are made by themselves once our check foresees that they are accepted; a client may have it otherwise. */
  claims: Joi.valid(...CLAIMS_BY).default('by-person'),
  /** Folders of this machine below which the service may put files of websites. */
  publish: Joi.object({ folders: Joi.array().items(Joi.string().max(1_000)).default([]) }).default(),
  /** The mail server by which people are told. Without a host no mail is written. */
  mail: Joi.object({
    host: Joi.string().hostname().allow(null).default(null),
    port: Joi.number().port().default(587),
    /** `starttls` refuses to go on in the clear (RFC 3207); `implicit` is TLS from the beginning (RFC 8314); `none` is for a server on the same machine. */
    security: Joi.valid('starttls', 'implicit', 'none').default('starttls'),
    user: Joi.string().allow(null).default(null),
    /** The environment variable that holds the password. */
    passwordFrom: Joi.string()
      .pattern(/^[A-Z][A-Z0-9_]*$/u)
      .default('YARDBADGE_MAIL_PASSWORD'),
    from: Joi.string().max(200).default('Yard Badge <yardbadge@localhost>'),
  }).default(),
  /** How the agency shows itself to its clients. */
  agency: Joi.object({
    name: Joi.string().max(120).default(UNNAMED_AGENCY),
    colour: Joi.string()
      .pattern(/^#[0-9a-f]{6}$/iu, 'a colour such as #0b4f6c')
      .default('#0b4f6c'),
    logo: Joi.string().allow(null).default(null),
  }).default(),
  /** How long what is over is kept: looks at placements, what they rest on, finished work and its pieces, ended keys. */
  keep: Joi.object({
    checks: duration('P104W'),
    evidence: duration('P26W'),
    jobs: duration('P13W'),
    pieces: duration('P2W'),
    looks: duration('P2D'),
    messages: duration('P26W'),
    keys: duration('P52W'),
  }).default(),
  net: Joi.object({
    resolver: Joi.alternatives(Joi.string().ip({ cidr: 'forbidden' }), endpointText)
      .allow(null)
      .default(null),
    allow: Joi.array()
      .items(
        Joi.string()
          .custom(range)
          .messages({ 'any.custom': '{#label} must be a range in CIDR form, such as 127.0.0.0/8' }),
      )
      .default([]),
    connect: Joi.array()
      .items(Joi.object({ from: endpointText.required(), to: endpointText.required() }))
      .default([]),
    ca: Joi.string().allow(null).default(null),
    agent: Joi.string().max(200).default('YardBadge/1.0 (+https://agency.example/bot)'),
    bounds: Joi.object({
      connectMs: milliseconds.default(DEFAULT_BOUNDS.connectMs),
      hopMs: milliseconds.default(DEFAULT_BOUNDS.hopMs),
      bodyBytes: Joi.number().integer().min(1024).default(DEFAULT_BOUNDS.bodyBytes),
      headerBytes: Joi.number().integer().min(1024).default(DEFAULT_BOUNDS.headerBytes),
      dnsMs: milliseconds.default(DEFAULT_BOUNDS.dnsMs),
    }).default(),
  }).default(),
});

export interface Settings {
  readonly listen: { readonly host: string; readonly port: number };
  readonly publicUrl: string | null;
  readonly trustProxy: readonly string[];
  readonly keyVariables: readonly string[];
  readonly plainLinks: readonly string[];
  readonly data: string;
  readonly clock: string | null;
  readonly engines: string | null;
  readonly keyFile: string;
  readonly log: 'silent' | 'error' | 'warn' | 'info' | 'debug';
  readonly sitemaps: SitemapSettings;
  readonly keep: KeepSettings;
  readonly watch: WatchSettings;
  readonly mail: MailSettings;
  readonly claims: ClaimsBy;
  readonly publish: PublishSettings;
  readonly agency: { readonly name: string; readonly colour: string; readonly logo: string | null };
  readonly net: {
    readonly resolver: string | null;
    readonly allow: readonly string[];
    readonly connect: readonly { readonly from: string; readonly to: string }[];
    readonly ca: string | null;
    readonly agent: string;
    readonly bounds: typeof DEFAULT_BOUNDS;
  };
}
