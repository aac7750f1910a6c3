import { site } from '../../src/rehearsal/scenario.js';
import type { CertificateKind, SiteState } from '../../src/rehearsal/state.js';
import { html, type MetaGround } from './ground.js';
import type { Scene } from './scenes.js';

type Reach = Scene<MetaGround>;

/** The tag is right wherever the page is; only the way to it is odd. */
const way = (
  what: string,
  first: Reach['first'],
  more: (ground: MetaGround) => Partial<SiteState>,
): Reach => ({
  what,
  first,
  arrange: (ground) => void ground.site({ head: [ground.placement.tag], ...more(ground) }),
});

const status = (code: number, first: string): Reach =>
  way(`the page answers ${String(code)}`, first, (g) => ({
    answers: { '/': { status: code, body: html(g.placement.tag, ''), headers: { 'retry-after': '0' } } },
  }));

const certificate = (kind: CertificateKind, first: string): Reach =>
  way(`a certificate that is ${kind}`, first, () => ({ certificate: kind }));

const to = (location: string, code = 301) => ({ status: code, headers: { location } });
const page = (g: MetaGround) => ({ status: 200, body: html(g.placement.tag, '') });

/** How far an engine goes along: it has the same rule for every step. */
const goes = (none: string, host: string, registrable: string) => (g: MetaGround) =>
  ({ none, host, registrable })[g.placement.redirects];

export const REACH_SCENES: readonly Reach[] = [
  status(401, 'reach.denied'),
  status(403, 'reach.denied'),
  status(404, 'reach.gone'),
  status(410, 'reach.gone'),
  status(429, 'reach.rate-limited'),
  status(500, 'reach.server-error'),
  status(503, 'reach.server-error'),
  status(204, 'reach.odd-status'),
  status(202, 'reach.odd-status'),
  way('a wall against programs', 'reach.bot-wall', () => ({ wall: true })),
  certificate('expired', 'reach.tls-expired'),
  certificate('other-name', 'reach.tls-name'),
  certificate('self-signed', 'reach.tls-self-signed'),
  certificate('no-chain', 'reach.tls-chain'),
  certificate('unknown', 'reach.tls-untrusted'),
  way('one step on the same host', goes('reach.redirected', 'meta.stands', 'meta.stands'), (g) => ({
    answers: { '/': to('/en/', 302), '/en/': page(g) },
  })),
  way('to another host of the domain', goes('reach.redirected', 'reach.off-host', 'meta.stands'), (g) => {
    g.state.sites.push(site(`m.${g.bare}`, 'Quay', '', { head: [g.placement.tag] }));
    return { answers: { '/': to(`https://m.${g.bare}/`) } };
  }),
  way('to another domain', goes('reach.redirected', 'reach.off-domain', 'reach.off-domain'), (g) => {
    g.state.sites.push(site(`x${g.bare}`, 'Quay', '', { head: [g.placement.tag] }));
    return { answers: { '/': to(`https://x${g.bare}/`) } };
  }),
  way('down from https', goes('reach.redirected', 'reach.downgrade', 'reach.downgrade'), (g) => ({
    plain: true,
    answers: { '/': to(`http://${g.bare}/plain`), '/plain': page(g) },
  })),
  way('round in a circle', goes('reach.redirected', 'reach.loop', 'reach.loop'), () => ({
    answers: { '/': to('/a'), '/a': to('/b'), '/b': to('/a') },
  })),
  way('seven steps', goes('reach.redirected', 'reach.redirect-limit', 'reach.redirect-limit'), (g) => ({
    answers: {
      '/': to('/1'),
      '/1': to('/2'),
      '/2': to('/3'),
      '/3': to('/4'),
      '/4': to('/5'),
      '/5': to('/6'),
      '/6': to('/7'),
      '/7': page(g),
    },
  })),
  way('twelve steps', goes('reach.redirected', 'reach.too-many-hops', 'reach.too-many-hops'), () => ({
    answers: Object.fromEntries(
      Array.from({ length: 13 }, (_, at) => [at === 0 ? '/' : `/${String(at)}`, to(`/${String(at + 1)}`)]),
    ),
  })),
  way('the connection is cut', 'reach.cut', () => ({ serves: 'down' })),
  way('the server has an error', 'reach.server-error', () => ({ serves: 'errors' })),
  way('no answer in time', 'reach.timed-out', () => ({ answers: { '/': { status: 200, delayMs: 20_000 } } })),
  way('headers without end', 'reach.headers-too-large', () => ({
    answers: { '/': { status: 200, headers: { 'x-pile': 'x'.repeat(60_000) } } },
  })),
  {
    what: 'the connection is refused',
    first: 'reach.refused',
    arrange: (g) => {
      g.site({ head: [g.placement.tag] });
      g.state.names.hosts.push({ host: g.bare, address: '192.0.2.99' });
    },
  },
  { what: 'the name does not exist', first: 'reach.name-missing', arrange: () => undefined },
  {
    what: 'the name has no address',
    first: 'reach.no-address',
    arrange: (g) => {
      g.site({ head: [g.placement.tag] });
      g.state.names.hosts.push({ host: g.bare, address: null });
    },
  },
  {
    what: 'the resolver fails for the name',
    first: 'reach.resolver-fails',
    arrange: (g) => {
      g.site({ head: [g.placement.tag] });
      g.state.names.fails.push({ name: g.bare, how: 'servfail', at: 'resolver' });
    },
  },
];
