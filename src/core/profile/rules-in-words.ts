import type { Reach } from '../address/reach.js';
import { durationMs, durationWords } from '../time/duration.js';
import {
  isBorrowing,
  METHODS,
  methodsFor,
  type EngineProfile,
  type ManyRule,
  type Profile,
  type RedirectRule,
} from './profile.js';

const REDIRECTS: Readonly<Record<RedirectRule, string>> = {
  none: 'follows no redirects',
  host: 'follows redirects on the same host only',
  registrable: 'follows redirects within the same domain',
};

const MANY: Readonly<Record<ManyRule, string>> = {
  any: '',
  first: '; of several it reads the first',
  last: '; of several it reads the last',
  one: '; reads it only where it is the only one',
};

function words(duration: string): string {
  return durationWords(durationMs(duration));
}

function reachRule(profile: EngineProfile, reach: Reach): string {
  const what =
    reach === 'name' ? 'a whole name with every host and scheme under it' : 'one address with all below it';
  return `Registers by ${reach} (${what}), proven by ${methodsFor(profile, reach).join(', ')}.`;
}

function methodRules({ methods }: EngineProfile): string[] {
  const { meta, file, dns } = methods;
  const strictly = (compare: 'exact' | 'trimmed') => (compare === 'exact' ? ', compared byte by byte' : '');
  return [
    ...(meta
      ? [
          `Meta tag “${meta.name}” on the home page${strictly(meta.compare)}${MANY[meta.many]}; ${REDIRECTS[meta.redirects]}${meta.scripting === undefined ? '' : meta.scripting ? ', reads the page as one that runs scripts' : ', runs no scripts'}.`,
        ]
      : []),
    ...(file
      ? [
          `File at ${file.path}${file.base === 'folder' ? ' in the property’s own folder' : ''}${strictly(file.compare)}; ${REDIRECTS[file.redirects]}.`,
        ]
      : []),
    ...(dns
      ? [
          `DNS TXT record ${dns.label === null ? 'at the name itself' : `under the label ${dns.label}`}${strictly(dns.compare)}${MANY[dns.many]}.`,
        ]
      : []),
    ...(METHODS.some((method) => !methods[method])
      ? [`Takes no proof by ${METHODS.filter((method) => !methods[method]).join(' or ')}.`]
      : []),
  ];
}

function tokenRules({ token }: EngineProfile): string[] {
  const rules = [
    token.per === 'account'
      ? 'One token for all the sites of an account: the next site needs no new one.'
      : 'A token of its own for each enrolment.',
  ];
  if (token.livesUnclaimed !== undefined)
    rules.push(`An unclaimed token expires after ${words(token.livesUnclaimed)}.`);
  return rules;
}

function keepingRule({ keeps }: EngineProfile): string {
  if (!keeps) return 'How often it looks again is not known.';
  const patience =
    durationMs(keeps.grace) === 0
      ? 'withdraws at once when the token is gone'
      : `withdraws after ${words(keeps.grace)} without the token`;
  return `Looks again every ${words(keeps.looksEvery)}; ${patience}.`;
}

function sitemapRules({ sitemaps }: EngineProfile): string[] {
  if (!sitemaps) return ['Takes no sitemaps.'];
  const { form, formats, firstReading, needsBadge, atRegistration, ping, limit } = sitemaps;
  return [
    `Takes up to ${String(limit)} sitemaps (${formats.join(', ')}) as ${form === 'path' ? 'a path' : 'a whole address'}${needsBadge ? ', once the badge is held' : ''}; first reading within ${words(firstReading)}.`,
    ...(atRegistration ? ['Asks for a sitemap when a site is registered.'] : []),
    ...(ping ? ['Takes the ping of the sitemaps.org protocol.'] : []),
  ];
}

function ration(profile: EngineProfile): string {
  const { lookupsADay, visitsADay } = profile;
  if (lookupsADay === 0 && visitsADay === 0)
    return 'Single pages can be neither looked up nor visited on request.';
  const visits = visitsADay === 0 ? 'no visit requests' : `${String(visitsADay)} visit requests`;
  return `${String(lookupsADay)} lookups and ${visits} a day.`;
}

/**
 * An engine's rules in the words of one who works with them, the most needed first.
 * @param titleOf names another engine
 */
export function rulesInWords(profile: Profile, titleOf: (id: string) => string): string[] {
  if (isBorrowing(profile)) {
    const from = titleOf(profile.worked.from);
    return [`Shows ${from}’s results: nothing is to be done here but with ${from}.`];
  }
  const isHouse = profile.worked.how === 'house';
  return [
    ...(profile.worked.how === 'hand'
      ? ['Manual: paste its tokens here, claim on its own pages, then record its verdict.']
      : []),
    ...profile.reaches.map((reach) => reachRule(profile, reach)),
    ...(profile.facts.length > 0
      ? [`Asks at registration: ${profile.facts.map(({ title }) => title).join('; ')}.`]
      : []),
    ...tokenRules(profile),
    ...methodRules(profile),
    keepingRule(profile),
    ...(profile.agent === undefined ? [] : [`Calls its fetcher ${profile.agent}, as in a robots.txt.`]),
    ...sitemapRules(profile),
    ...(isHouse ? [] : [ration(profile)]),
  ];
}
