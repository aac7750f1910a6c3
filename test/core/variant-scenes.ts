import type { FindingCode } from '../../src/core/findings/catalogue.js';
import type { Role } from '../../src/core/variants/roles.js';
import { certificate, page, to, type Answer, type Scene, type Web } from '../support/web.js';

/** One observation: what is there, and what has to come of it. */
export interface Row {
  readonly scene: Scene;
  /** The front door, or why there is none. */
  readonly door: string;
  /** Roles by address, as far as the row is about them. */
  readonly roles?: Readonly<Record<string, Role>>;
  /** Exactly what is found, notes apart. */
  readonly finds?: readonly FindingCode[];
  /** Notes that have to be among them. */
  readonly notes?: readonly FindingCode[];
}

const HTTPS = 'https://quay.example/';
const HTTP = 'http://quay.example/';
const WWW = 'https://www.quay.example/';
const HTTP_WWW = 'http://www.quay.example/';
const HOME = page('Crossings to the islands every tide and every day of the year');
const LONG = Array.from({ length: 60 }, (_, at) => `crossing${String(at * 7)}`).join(' ');
const OTHER = page('Parked with us, the best place for names of all kinds');
const withHead = (head: string) =>
  page('Crossings to the islands every tide and every day of the year', head);
const canonical = (url: string) => withHead(`<link rel="canonical" href="${url}">`);
const refresh = (url: string, seconds = 0) =>
  page('', `<meta http-equiv="refresh" content="${String(seconds)}; url=${url}">`);
const script = (code: string) => page('', `<script>${code}</script>`);
const frame = (url: string): Answer => ({
  page: `<!doctype html><html><head><title>Quay</title></head><frameset rows="*"><frame src="${url}"></frameset></html>`,
});
/** The usual four of quay.example, all leading to the first one over https, with what a row says otherwise. */
const web = (more: Web = {}, door = HTTPS): Web => ({
  ...Object.fromEntries([HTTPS, HTTP, WWW, HTTP_WWW].map((url) => [url, to(door)])),
  [door]: HOME,
  ...more,
});
const fails = (
  why:
    | 'tls-expired'
    | 'tls-name'
    | 'tls-self-signed'
    | 'tls-chain'
    | 'refused'
    | 'timed-out'
    | 'no-address'
    | 'name-missing',
): Answer => ({
  fails: why,
  ...(why.startsWith('tls') ? { certificate: certificate('quay.example', '2026-11-01T00:00:00.000Z') } : {}),
});
const hsts = (value: string, words = HOME): Answer =>
  'page' in words ? { ...words, headers: { 'strict-transport-security': value } } : words;
const robots = (text: string, status = 200) => ({ url: 'https://quay.example/robots.txt', status, text });

export const ROWS: Readonly<Record<string, Row>> = {
  'all lead to https and the bare name': {
    scene: { web: web() },
    door: HTTPS,
    roles: { [HTTPS]: 'front-door', [HTTP]: 'leads', [WWW]: 'leads', [HTTP_WWW]: 'leads' },
    finds: [],
    notes: ['variants.no-hsts'],
  },
  'all lead to www, though the bare name was taken on': {
    scene: { web: web({}, WWW) },
    door: WWW,
    roles: { [HTTPS]: 'leads', [WWW]: 'front-door' },
    finds: [],
  },
  'taken on over http, lives at https': { scene: { takenOn: HTTP, web: web() }, door: HTTPS, finds: [] },
  'only http answers': {
    scene: {
      web: web({ [HTTPS]: fails('refused'), [WWW]: fails('refused'), [HTTP_WWW]: to(HTTP), [HTTP]: HOME }),
    },
    door: HTTP,
    roles: { [HTTPS]: 'dark', [HTTP]: 'front-door' },
    finds: ['variants.dark', 'variants.dark', 'variants.no-https'],
  },
  'https leads down to http': {
    scene: { web: web({ [HTTPS]: to(HTTP), [WWW]: to(HTTP), [HTTP_WWW]: to(HTTP), [HTTP]: HOME }) },
    door: HTTP,
    finds: ['variants.downgrade', 'variants.downgrade', 'variants.no-https'],
  },
  'a temporary redirect, 302': {
    scene: { web: web({ [HTTP]: to(HTTPS, 302) }) },
    door: HTTPS,
    roles: { [HTTP]: 'leads' },
    finds: ['variants.temporary'],
  },
  'a temporary redirect, 307': {
    scene: { web: web({ [WWW]: to(HTTPS, 307) }) },
    door: HTTPS,
    finds: ['variants.temporary'],
  },
  'a permanent redirect, 308': { scene: { web: web({ [HTTP]: to(HTTPS, 308) }) }, door: HTTPS, finds: [] },
  'temporary in the midst of permanent ones': {
    scene: { web: web({ [HTTP_WWW]: to(WWW), [WWW]: to(HTTPS, 303) }) },
    door: HTTPS,
    finds: ['variants.temporary', 'variants.temporary'],
  },
  'a meta refresh at once': {
    scene: { web: web({ [HTTP]: refresh(HTTPS) }) },
    door: HTTPS,
    roles: { [HTTP]: 'leads' },
    finds: ['variants.by-refresh'],
  },
  'a meta refresh without url=': {
    scene: { web: web({ [HTTP]: page('', `<meta http-equiv="Refresh" content="1;'${HTTPS}'">`) }) },
    door: HTTPS,
    finds: ['variants.by-refresh'],
  },
  'a refresh that lets people read first is none': {
    scene: { web: web({ [HTTP]: refresh(HTTPS, 60) }) },
    door: HTTPS,
    roles: { [HTTP]: 'answers' },
    finds: ['variants.other-page'],
  },
  'a page that only loads itself again': {
    scene: { web: web({ [HTTPS]: withHead('<meta http-equiv="refresh" content="5">') }) },
    door: HTTPS,
    finds: [],
  },
  'a script that sets the location': {
    scene: { web: web({ [HTTP]: script(`window.location.href = "${HTTPS}";`) }) },
    door: HTTPS,
    finds: ['variants.by-script'],
  },
  'a script that replaces the location': {
    scene: { web: web({ [WWW]: script(`location.replace('${HTTPS}')`) }) },
    door: HTTPS,
    finds: ['variants.by-script'],
  },
  'a script on a page of its own is no redirect': {
    scene: {
      web: web({
        [HTTPS]: page(
          `Crossings ${'to the islands every tide '.repeat(12)}`,
          `<script>if (old) location.href = "https://old.example/";</script>`,
        ),
      }),
    },
    door: HTTPS,
    finds: [],
  },
  'a refresh in a circle': {
    scene: { web: web({ [HTTP_WWW]: refresh(HTTP), [HTTP]: refresh(HTTP_WWW) }) },
    door: HTTPS,
    roles: { [HTTP]: 'dark' },
    finds: ['variants.circle', 'variants.circle'],
  },
  'redirects in a circle': {
    scene: { web: web({ [HTTP_WWW]: to(HTTP), [HTTP]: to(HTTP_WWW) }) },
    door: HTTPS,
    roles: { [HTTP]: 'dark' },
    finds: ['variants.circle', 'variants.circle'],
  },
  'redirects without end': {
    scene: {
      web: web({
        [HTTP]: to('http://quay.example/0'),
        ...Object.fromEntries(
          Array.from({ length: 14 }, (_, at) => [
            `http://quay.example/${String(at)}`,
            to(`/${String(at + 1)}`),
          ]),
        ),
      }),
    },
    door: HTTPS,
    roles: { [HTTP]: 'dark' },
    finds: ['variants.circle'],
  },
  'three steps to the front door': {
    scene: { web: web({ [HTTP_WWW]: to(WWW), [WWW]: to(HTTP), [HTTP]: to(HTTPS) }) },
    door: HTTPS,
    finds: ['variants.downgrade', 'variants.downgrade'],
    notes: ['variants.long-way'],
  },
  'a start page below the root': {
    scene: { web: web({ [HTTPS]: to('/en/'), 'https://quay.example/en/': HOME }) },
    door: HTTPS,
    roles: { [HTTPS]: 'front-door', [HTTP]: 'leads' },
    finds: [],
  },
  'http and https show the same page': {
    scene: { web: web({ [HTTP]: HOME }) },
    door: HTTPS,
    roles: { [HTTP]: 'answers' },
    finds: ['variants.same-page'],
  },
  'the same page but for the date in it': {
    scene: {
      web: web({
        [HTTPS]: page(`${LONG} Monday`),
        [WWW]: page(`${LONG} Tuesday`),
      }),
    },
    door: HTTPS,
    finds: ['variants.same-page'],
  },
  'all four show the same page': {
    scene: { web: { [HTTPS]: HOME, [HTTP]: HOME, [WWW]: HOME, [HTTP_WWW]: HOME } },
    door: HTTPS,
    finds: ['variants.same-page', 'variants.same-page', 'variants.same-page'],
  },
  'the same page, which names the front door as canonical': {
    scene: { web: web({ [HTTP]: canonical(HTTPS), [HTTPS]: canonical(HTTPS) }) },
    door: HTTPS,
    finds: [],
    notes: ['variants.same-page-named'],
  },
  'of four that answer, the one that they name': {
    scene: {
      web: {
        [HTTPS]: canonical(WWW),
        [HTTP]: canonical(WWW),
        [WWW]: canonical(WWW),
        [HTTP_WWW]: canonical(WWW),
      },
    },
    door: WWW,
    finds: [],
  },
  'a canonical link in the header': {
    scene: { web: web({ [HTTP]: { ...HOME, headers: { link: `<${HTTPS}>; rel="canonical"` } } as Answer }) },
    door: HTTPS,
    finds: [],
    notes: ['variants.same-page-named'],
  },
  'a relative canonical link': { scene: { web: web({ [HTTPS]: canonical('/') }) }, door: HTTPS, finds: [] },
  'a canonical link to a variant that only leads here': {
    scene: { web: web({ [HTTPS]: canonical(HTTP) }) },
    door: HTTPS,
    finds: ['variants.canonical-elsewhere'],
  },
  'a canonical link to another domain': {
    scene: { web: web({ [HTTPS]: canonical('https://harbour.example/') }) },
    door: HTTPS,
    finds: ['variants.canonical-away'],
  },
  'a canonical link in the body is none': {
    scene: { web: web({ [HTTPS]: { page: `<p>Crossings<link rel=canonical href="${HTTP}">` } }) },
    door: HTTPS,
    finds: [],
  },
  'a sibling at a variant that only leads here': {
    scene: { web: web({ [HTTPS]: withHead(`<link rel="alternate" hreflang="fi" href="${HTTP_WWW}">`) }) },
    door: HTTPS,
    finds: ['variants.sibling-elsewhere'],
  },
  'siblings on other hosts are in order': {
    scene: {
      web: web({
        [HTTPS]: withHead(
          '<link rel="alternate" hreflang="fi" href="https://fi.quay.example/"><link rel="alternate" hreflang="en" href="/">',
        ),
      }),
    },
    door: HTTPS,
    finds: [],
  },
  'another page at www': {
    scene: { web: web({ [WWW]: OTHER, [HTTP_WWW]: OTHER }) },
    door: HTTPS,
    roles: { [WWW]: 'answers' },
    finds: ['variants.other-page', 'variants.other-page'],
  },
  'www leads to another place of the domain': {
    scene: { web: web({ [WWW]: to('https://shop.quay.example/'), 'https://shop.quay.example/': OTHER }) },
    door: HTTPS,
    roles: { [WWW]: 'elsewhere' },
    finds: ['variants.leads-elsewhere'],
  },
  'www leads away to another domain': {
    scene: { web: web({ [WWW]: to('https://parking.example/'), 'https://parking.example/': OTHER }) },
    door: HTTPS,
    roles: { [WWW]: 'elsewhere' },
    finds: ['variants.leads-away'],
  },
  'everything leads away': {
    scene: { web: { ...web({}, 'https://new-quay.example/') } },
    door: 'elsewhere https://new-quay.example/',
    finds: ['variants.moved-away'],
  },
  'www is dark: no such name': {
    scene: { web: web({ [WWW]: fails('name-missing'), [HTTP_WWW]: fails('name-missing') }) },
    door: HTTPS,
    roles: { [WWW]: 'dark' },
    finds: ['variants.dark', 'variants.dark'],
  },
  'www is dark: no address': {
    scene: { web: web({ [WWW]: fails('no-address'), [HTTP_WWW]: fails('no-address') }) },
    door: HTTPS,
    finds: ['variants.dark', 'variants.dark'],
  },
  'www answers 404': {
    scene: { web: web({ [WWW]: { status: 404 } }) },
    door: HTTPS,
    roles: { [WWW]: 'dark' },
    finds: ['variants.dark'],
  },
  'www answers 503': {
    scene: { web: web({ [WWW]: { status: 503 } }) },
    door: HTTPS,
    roles: { [WWW]: 'dark' },
    finds: ['variants.dark'],
  },
  'www keeps visitors out': {
    scene: { web: web({ [WWW]: { status: 401 } }) },
    door: HTTPS,
    roles: { [WWW]: 'closed' },
    finds: ['variants.closed'],
  },
  'www of a subdomain need not be there': {
    scene: {
      takenOn: 'https://shop.quay.example/',
      web: {
        'https://shop.quay.example/': HOME,
        'http://shop.quay.example/': to('https://shop.quay.example/'),
      },
    },
    door: 'https://shop.quay.example/',
    roles: { 'https://www.shop.quay.example/': 'dark' },
    finds: [],
    notes: ['variants.dark-unused'],
  },
  'nothing answers': {
    scene: { web: { [HTTPS]: fails('timed-out'), [HTTP]: fails('timed-out') } },
    door: 'dark',
    finds: ['variants.all-dark'],
  },
  'a certificate that has expired, at www': {
    scene: { web: web({ [WWW]: fails('tls-expired') }) },
    door: HTTPS,
    roles: { [WWW]: 'broken-certificate' },
    finds: ['variants.broken-certificate'],
  },
  'a certificate for another name, met behind http': {
    scene: { web: web({ [WWW]: fails('tls-name'), [HTTP_WWW]: to(WWW) }) },
    door: HTTPS,
    roles: { [WWW]: 'broken-certificate', [HTTP_WWW]: 'broken-certificate' },
    finds: ['variants.broken-certificate'],
  },
  'a certificate signed by itself': {
    scene: { web: web({ [WWW]: fails('tls-self-signed') }) },
    door: HTTPS,
    finds: ['variants.broken-certificate'],
  },
  'a certificate without its chain': {
    scene: { web: web({ [WWW]: fails('tls-chain') }) },
    door: HTTPS,
    finds: ['variants.broken-certificate'],
  },
  'the certificate ends within two weeks': {
    scene: {
      web: web({
        [HTTPS]: { ...HOME, certificate: certificate('quay.example', '2026-12-01T08:00:00.000Z') } as Answer,
      }),
    },
    door: HTTPS,
    finds: ['variants.certificate-ends'],
  },
  'HSTS over all hosts, and www without https': {
    scene: {
      web: web({
        [HTTPS]: hsts('max-age=31536000; includeSubDomains'),
        [WWW]: fails('tls-name'),
        [HTTP_WWW]: to(HTTPS),
      }),
    },
    door: HTTPS,
    finds: ['variants.broken-certificate', 'variants.hsts-shuts-out'],
  },
  'HSTS for the host alone': {
    scene: {
      web: web({ [HTTPS]: hsts('max-age=31536000'), [WWW]: fails('tls-name'), [HTTP_WWW]: to(HTTPS) }),
    },
    door: HTTPS,
    finds: ['variants.broken-certificate'],
  },
  'HSTS that is taken back': {
    scene: {
      web: web({
        [HTTPS]: hsts('max-age=0; includeSubDomains'),
        [WWW]: fails('refused'),
        [HTTP_WWW]: to(HTTPS),
      }),
    },
    door: HTTPS,
    finds: ['variants.dark'],
  },
  'the front door is a frame': {
    scene: { web: web({ [HTTPS]: frame('https://pages.hosting.example/quay/') }) },
    door: HTTPS,
    roles: { [HTTPS]: 'framed' },
    finds: ['variants.only-a-frame'],
  },
  'www frames the front door': {
    scene: { web: web({ [WWW]: frame('https://quay.example/') }) },
    door: HTTPS,
    roles: { [WWW]: 'framed' },
    finds: ['variants.framed'],
  },
  'the sitemap is at another variant': {
    scene: { web: web(), sitemaps: [`${HTTP_WWW}sitemap.xml`] },
    door: HTTPS,
    finds: ['variants.sitemap-elsewhere'],
  },
  'a sitemap on another domain is no matter of variants': {
    scene: { web: web(), sitemaps: ['https://maps.example/quay.xml', '/odd'] },
    door: HTTPS,
    finds: [],
  },
  'a robots tag keeps all engines out': {
    scene: { web: web({ [HTTPS]: withHead('<meta name="robots" content="noindex, nofollow">') }) },
    door: HTTPS,
    finds: ['reach.keeps-out-tag'],
  },
  'a robots tag for one engine': {
    scene: { web: web({ [HTTPS]: withHead('<meta name="Veldrane-Reader" content="none">') }) },
    door: HTTPS,
    finds: ['reach.keeps-out-tag'],
  },
  'a robots tag for an engine that nobody works with': {
    scene: { web: web({ [HTTPS]: withHead('<meta name="otherbot" content="noindex">') }) },
    door: HTTPS,
    finds: [],
  },
  'a robots header': {
    scene: {
      web: web({ [HTTPS]: { ...HOME, headers: { 'x-robots-tag': 'max-snippet: 10, noindex' } } as Answer }),
    },
    door: HTTPS,
    finds: ['reach.keeps-out-header'],
  },
  'a robots header for another agent': {
    scene: {
      web: web({
        [HTTPS]: { ...HOME, headers: { 'x-robots-tag': 'otherbot: noindex, nofollow' } } as Answer,
      }),
    },
    door: HTTPS,
    finds: [],
  },
  'a robots.txt that forbids everything': {
    scene: { web: web(), robots: robots('User-agent: *\nDisallow: /') },
    door: HTTPS,
    finds: ['reach.keeps-out-robots'],
  },
  'a robots.txt against one engine': {
    scene: {
      web: web(),
      robots: robots('User-agent: *\nDisallow: /cgi/\n\nUser-agent: veldrane-reader\nDisallow: /'),
    },
    door: HTTPS,
    finds: ['reach.keeps-out-robots'],
  },
  'a robots.txt that lets the front page alone in': {
    scene: { web: web(), robots: robots('User-agent: *\nDisallow: /\nAllow: /$') },
    door: HTTPS,
    finds: [],
  },
  'no robots.txt': { scene: { web: web(), robots: robots('', 404) }, door: HTTPS, finds: [] },
  'a robots.txt that fails': {
    scene: { web: web(), robots: robots('', 503) },
    door: HTTPS,
    finds: ['reach.robots-fails'],
  },
  'an index file that shows the same page': {
    scene: { web: web({ 'https://quay.example/index.html': HOME }) },
    door: HTTPS,
    finds: ['variants.spelt-twice'],
  },
  'an index file, with a canonical link': {
    scene: { web: web({ [HTTPS]: canonical(HTTPS), 'https://quay.example/index.html': canonical(HTTPS) }) },
    door: HTTPS,
    finds: [],
    notes: ['variants.spelt-twice-named'],
  },
  'an index file that leads here': {
    scene: { web: web({ 'https://quay.example/index.html': to(HTTPS) }) },
    door: HTTPS,
    finds: [],
  },
  'a port of its own': {
    scene: { takenOn: 'https://quay.example:8443/', web: web({ 'https://quay.example:8443/': OTHER }) },
    door: HTTPS,
    roles: { 'https://quay.example:8443/': 'answers' },
    finds: ['variants.dark', 'variants.other-page'],
  },

  // What was the front door before.
  'moved from http to https': { scene: { former: HTTP, takenOn: HTTP, web: web() }, door: HTTPS, finds: [] },
  'moved from bare to www': { scene: { former: HTTPS, web: web({}, WWW) }, door: WWW, finds: [] },
  'moved by a temporary redirect, within the domain': {
    scene: { former: HTTPS, web: web({ [HTTPS]: to(WWW, 302) }, WWW) },
    door: WWW,
    finds: ['variants.temporary'],
  },
  'moved for good to another domain': {
    scene: { former: HTTPS, web: { ...web({}, 'https://new-quay.example/') } },
    door: 'https://new-quay.example/',
    finds: [],
  },
  'sent away for a while: no move': {
    scene: {
      former: HTTPS,
      web: web({ [HTTPS]: to('https://works.example/', 302), 'https://works.example/': OTHER }),
    },
    door: HTTPS,
    roles: { [HTTPS]: 'elsewhere' },
  },
  'dark for a while: no move': {
    scene: {
      former: HTTPS,
      web: web({ [HTTPS]: fails('timed-out'), [HTTP]: HOME, [WWW]: to(HTTP), [HTTP_WWW]: to(HTTP) }),
    },
    door: HTTPS,
    finds: [
      'variants.door-dark',
      'variants.downgrade',
      'variants.leads-elsewhere',
      'variants.leads-elsewhere',
      'variants.other-page',
    ],
  },
  'its certificate has expired: no move': {
    scene: { former: HTTPS, web: web({ [HTTPS]: fails('tls-expired') }) },
    door: HTTPS,
    roles: { [HTTPS]: 'broken-certificate', [HTTP]: 'broken-certificate' },
    finds: ['variants.door-dark'],
  },
  'its name is gone, and www answers': {
    scene: { former: HTTPS, web: { [WWW]: HOME, [HTTP_WWW]: to(WWW) } },
    door: WWW,
    finds: ['variants.dark', 'variants.dark'],
  },
  'https answers now too: no move yet': {
    scene: { former: HTTP, takenOn: HTTP, web: web({ [HTTP]: HOME, [HTTP_WWW]: to(HTTP) }) },
    door: HTTP,
    finds: ['variants.leads-elsewhere', 'variants.no-https', 'variants.same-page'],
  },
  'https answers now, and the page names it': {
    scene: {
      former: HTTP,
      takenOn: HTTP,
      web: web({ [HTTP]: canonical(HTTPS), [HTTPS]: canonical(HTTPS), [HTTP_WWW]: to(HTTPS) }),
    },
    door: HTTPS,
    finds: [],
  },
};
