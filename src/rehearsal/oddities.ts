import Joi from 'joi';
import { zoneAnswer, zoneOf } from './names/records.js';
import { homePage } from './sites/pages.js';
import {
  nothingOdd,
  type AnswerState,
  type CertificateKind,
  type SiteState,
  type VariantState,
  type WorldFile,
} from './state.js';

/** What may be odd about a website. What is not said stays as it is; `none` ends it all. */
export interface OddSite {
  do: 'odd';
  host: string;
  none?: boolean;
  /** Lets browsers in and nobody else. */
  wall?: boolean;
  /** Every host answers by itself, over HTTP too. */
  plain?: boolean;
  certificate?: CertificateKind;
  /** A cache before it keeps the home page as it is now, for so many milliseconds. */
  keepMs?: number;
  /** An answer in place of the usual one. */
  answer?: AnswerState & { path: string };
}

/** One origin of a website does something in place of the usual; `usual` ends that. */
export interface OddVariant {
  do: 'odd-variant';
  origin: string;
  how: VariantState['how'] | 'usual';
  to?: string;
  status?: number;
  words?: string;
  head?: string[];
  headers?: Record<string, string>;
  certificate?: CertificateKind;
}

/** What may be odd about a name in the DNS. */
export interface OddName {
  do: 'odd-name';
  name: string;
  none?: boolean;
  alias?: string;
  fails?: 'servfail' | 'refused' | 'silent';
  /** The resolver keeps what it would say now, for so many milliseconds. */
  rememberMs?: number;
  /** The second server of the zone has its records as they are now, and gets no newer ones. */
  lag?: boolean;
  /** The zone is edited at a host to which nobody is sent: a record with this value stands there. */
  attic?: string;
}

const host = Joi.string().lowercase().required();
const certificate = Joi.valid(
  'good',
  'ends-soon',
  'expired',
  'other-name',
  'self-signed',
  'no-chain',
  'unknown',
);
const origin = Joi.string().pattern(/^https?:\/\/[^/]+$/, 'an origin such as http://www.quay.example');

export const oddSchemas = [
  Joi.object<OddSite>({
    do: Joi.valid('odd').required(),
    host,
    none: Joi.boolean(),
    wall: Joi.boolean(),
    plain: Joi.boolean(),
    certificate,
    keepMs: Joi.number().integer().min(0),
    answer: Joi.object({
      path: Joi.string()
        .pattern(/^(\/|\*$)/)
        .required(),
      status: Joi.number().integer().min(200).max(599).required(),
      headers: Joi.object().pattern(Joi.string(), Joi.string()),
      body: Joi.string().allow('').max(200_000),
      delayMs: Joi.number().integer().min(0).max(60_000),
    }),
  }),
  Joi.object<OddVariant>({
    do: Joi.valid('odd-variant').required(),
    origin: origin.required(),
    how: Joi.valid('redirect', 'refresh', 'script', 'frame', 'page', 'status', 'down', 'usual').required(),
    to: Joi.string()
      .uri()
      .when('how', { is: Joi.valid('redirect', 'refresh', 'script', 'frame'), then: Joi.required() }),
    status: Joi.number().integer().min(200).max(599).when('how', { is: 'status', then: Joi.required() }),
    words: Joi.string().max(2_000),
    head: Joi.array().items(Joi.string().max(2_000)),
    headers: Joi.object().pattern(Joi.string(), Joi.string()),
    certificate,
  }),
  Joi.object<OddName>({
    do: Joi.valid('odd-name').required(),
    name: host,
    none: Joi.boolean(),
    alias: Joi.string(),
    fails: Joi.valid('servfail', 'refused', 'silent'),
    rememberMs: Joi.number().integer().min(0),
    lag: Joi.boolean(),
    attic: Joi.string().max(2_000),
  }),
];

/** Makes a website odd. @returns what was done, in words */
export function makeSiteOdd(file: WorldFile, site: SiteState, order: OddSite): string {
  if (order.none === true) Object.assign(site, nothingOdd());
  if (order.wall !== undefined) site.wall = order.wall;
  if (order.plain !== undefined) site.plain = order.plain;
  if (order.certificate !== undefined) site.certificate = order.certificate;
  if (order.keepMs !== undefined)
    site.copy = {
      html: homePage(site),
      at: file.now().toISOString(),
      seconds: Math.round(order.keepMs / 1000),
    };
  if (order.answer) {
    const { path, ...answer } = order.answer;
    site.answers[path] = answer;
  }
  return `${site.host} is ${order.none === true ? 'as it should be' : 'odd now'}.`;
}

/** Makes one origin of a website odd. @returns what was done, in words */
export function makeVariantOdd(site: SiteState, { do: _, origin, ...variant }: OddVariant): string {
  delete site.variants[origin];
  if (variant.how === 'usual') return `${origin} does as usual.`;
  site.variants[origin] = variant as VariantState;
  return `${origin} is odd now: ${variant.how}${variant.to === undefined ? '' : ` to ${variant.to}`}.`;
}

/** Makes a name odd. @returns what was done, in words */
export function makeNameOdd(file: WorldFile, order: OddName): string {
  const { names, txt } = file.state;
  const { name } = order;
  const zone = zoneOf(name);
  if (order.none === true) {
    names.aliases = names.aliases.filter((one) => one.name !== name);
    names.fails = names.fails.filter((one) => one.name !== name);
    names.remembered = names.remembered.filter((one) => one.name !== name);
    names.lagging = names.lagging.filter((one) => one.zone !== zone);
    names.attic = names.attic.filter((one) => one.zone !== zone);
  }
  if (order.alias !== undefined) names.aliases.push({ name, to: order.alias });
  if (order.fails !== undefined)
    names.fails.push({ name, how: order.fails, at: 'resolver' }, { name, how: order.fails, at: 'both' });
  if (order.rememberMs !== undefined) {
    const said = zoneAnswer(file.state, 'ns1', { type: 'TXT', name }, name).answers ?? [];
    const values = said.flatMap((one) => (one.type === 'TXT' ? [[one.data].flat().join('')] : []));
    const until = new Date(file.now().getTime() + order.rememberMs).toISOString();
    names.remembered.push({ name, values, until });
  }
  if (order.lag === true)
    names.lagging.push({ zone, txt: txt.filter((one) => zoneOf(one.name) === zone), serial: 2026112301 });
  if (order.attic !== undefined) names.attic.push({ zone, txt: [{ name, value: order.attic }] });
  return `${name} is ${order.none === true ? 'as it should be' : 'odd now'}.`;
}
