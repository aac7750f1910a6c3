import type { CatalogueEntry } from '../finding.js';

/** Getting to the site at all, whatever is looked for there. */
export const REACH = {
  'reach.name-missing': {
    grade: 'stops',
    says: 'The name {host} does not exist in the DNS.',
    remedy: 'Please check that the domain {host} is registered and that its name servers answer for it.',
  },
  'reach.no-address': {
    grade: 'stops',
    says: 'The name {host} exists but has no A or AAAA record.',
    remedy: 'Please add an A or AAAA record for {host} that points to the web server.',
  },
  'reach.resolver-fails': {
    grade: 'stops',
    open: true,
    says: 'The address of {host} could not be looked up: {detail}.',
    remedy: 'Please check the name servers of {host} ({delegated}); they did not answer a plain look-up.',
  },
  'reach.refused': {
    grade: 'stops',
    says: 'The server at {address} refused the connection for {url}.',
    remedy: 'Please make the web server at {address} answer for {url}; it refuses connections.',
  },
  'reach.unreachable': {
    grade: 'stops',
    open: true,
    says: 'No way was found to {address} for {url}: {detail}.',
    remedy: 'Please check that the server at {address} can be reached from the internet.',
  },
  'reach.timed-out': {
    grade: 'stops',
    open: true,
    says: '{url} did not answer in time ({ms} ms).',
    remedy: 'Please check why {url} does not answer; engines give up after a few seconds.',
  },
  'reach.cut': {
    grade: 'stops',
    open: true,
    says: 'The connection for {url} was cut before the answer was whole.',
    remedy: 'Please check why the web server ends the connection for {url} early.',
  },
  'reach.guarded': {
    grade: 'stops',
    open: true,
    says: '{url} leads to {address}, a private or local address, which is not fetched.',
    remedy: 'Please let {host} point to a public address; {address} cannot be reached from the internet.',
  },
  'reach.tls-expired': {
    grade: 'stops',
    says: 'The certificate of {host} expired on {until}.',
    remedy: 'Please renew the certificate of {host}; it expired on {until}.',
  },
  'reach.tls-name': {
    grade: 'stops',
    says: 'The certificate shown for {host} is for {names}.',
    remedy: 'Please install a certificate that names {host}; the one shown there is for {names}.',
  },
  'reach.tls-failed': {
    grade: 'stops',
    says: 'No secure connection to {host} came about: {detail}.',
    remedy: 'Please check the HTTPS settings of {host}.',
  },
  'reach.not-http': {
    grade: 'stops',
    says: 'What answered at {url} does not speak HTTP: {detail}.',
    remedy: 'Please check which program answers at {url}; it should be the web server.',
  },
  'reach.headers-too-large': {
    grade: 'stops',
    says: 'The headers of {url} are larger than any engine would read.',
    remedy: 'Please check why {url} sends such large headers (often cookies that pile up).',
  },
  'reach.loop': {
    grade: 'stops',
    says: 'The redirects from {start} lead back to {url}.',
    remedy: 'Please mend the redirects: {start} leads round in a circle by way of {url}.',
  },
  'reach.too-many-hops': {
    grade: 'stops',
    says: '{start} redirects more than {limit} times.',
    remedy: 'Please let {start} redirect straight to the page where it ends.',
  },
  'reach.redirected': {
    grade: 'stops',
    act: 'ask',
    says: '{url} redirects to {location}, and the engine follows no redirects here.',
    remedy:
      'Please leave the redirect as it is until we have told you more: other engines may follow it. We register {location} in place of {url}, or ask you to serve the very same page at {url}.',
  },
  'reach.off-host': {
    grade: 'stops',
    act: 'ask',
    says: '{url} redirects to {location}, another host, where the engine does not follow.',
    remedy:
      'Please tell us whether visitors are meant to end up at {location}, and leave the redirect until then. If they are, we register that address; if not, {url} has to show the page itself.',
  },
  'reach.off-domain': {
    grade: 'stops',
    act: 'ask',
    says: '{url} redirects to {location}, another domain, where the engine does not follow.',
    remedy:
      'Please tell us whether the website has moved to {location}, and leave the redirect until then. If it has, we register that address; if not, {url} has to show the page itself.',
  },
  'reach.downgrade': {
    grade: 'harms',
    says: '{url} redirects from https to {location} without it.',
    remedy: 'Please let {url} stay on https.',
  },
  'reach.denied': {
    grade: 'stops',
    says: '{url} answers {status}: visitors without a sign-in, engines among them, are kept out.',
    remedy: 'Please let {url} be read without a sign-in, and let search engines pass the firewall.',
  },
  'reach.gone': {
    grade: 'stops',
    says: 'The page {url} does not exist (status {status}).',
    remedy: 'Please make {url} answer with the website’s page; it answers {status}.',
  },
  'reach.rate-limited': {
    grade: 'stops',
    says: '{url} answers 429: it wants fewer requests.',
    remedy: 'Please allow search engines more requests; {url} answered 429.',
  },
  'reach.server-error': {
    grade: 'stops',
    says: '{url} answers {status}: the server has an error of its own.',
    remedy: 'Please look into the server’s error log: {url} answers {status}.',
  },
  'reach.odd-status': {
    grade: 'stops',
    says: '{url} answers {status}, which is not a page.',
    remedy: 'Please make {url} answer 200 with the page.',
  },
  'reach.too-large': {
    grade: 'harms',
    says: 'Only the first {bytes} bytes of {url} were read; the page is larger.',
    remedy: 'Please make the page {url} smaller; engines stop reading large pages early.',
  },
  'reach.encoding-disputed': {
    grade: 'harms',
    says: '{url} is read as {encoding}, by {by}, though it is said to be {against} as well.',
    remedy:
      'Please let {url} say one encoding everywhere, best UTF-8: in its Content-Type and in its first meta element.',
  },
  'reach.encoding-rare': {
    grade: 'harms',
    says: '{url} is in {encoding}, told by {by}: many programs read such a page as noise.',
    remedy: 'Please let {url} be sent in UTF-8, and say so in its Content-Type.',
  },
  'reach.encoding-unsaid': {
    grade: 'note',
    says: '{url} does not say its encoding, so it is read as {encoding}; letters beyond the English ones may come out wrong.',
    remedy: '',
  },
  'reach.beyond-reading': {
    grade: 'harms',
    says: '{url} has more {what} than can be read as engines read it; what comes after was not looked at.',
    remedy:
      'Please have the markup of {url} looked at: {what} are far beyond what a page needs, and engines stop reading.',
  },
  'reach.too-heavy': {
    grade: 'stops',
    open: true,
    says: '{url} could not be read to its end: it took more {what} than any page should. That is a bound of ours; an engine may have another.',
    remedy: 'Please have a look at what {url} answers: it is far larger or stranger than a page needs to be.',
  },
  'reach.empty': {
    grade: 'stops',
    says: '{url} answers 200 with nothing in it.',
    remedy: 'Please check why {url} is empty.',
  },
  'reach.tls-self-signed': {
    grade: 'stops',
    says: 'The certificate of {host} is signed by itself (issuer {issuer}), which nobody trusts.',
    remedy:
      'Please install a certificate of a public authority for {host}; the one in use is signed by itself.',
  },
  'reach.tls-chain': {
    grade: 'stops',
    says: 'The certificate of {host} comes without its chain: nothing leads from {issuer} to a known authority.',
    remedy:
      'Please install the whole certificate chain for {host}: the intermediate certificate of {issuer} is missing.',
  },
  'reach.tls-untrusted': {
    grade: 'stops',
    says: 'The certificate of {host} is by an authority that nobody knows ({issuer}): {detail}.',
    remedy: 'Please install a certificate of a public authority for {host}.',
  },
  'reach.redirect-limit': {
    grade: 'stops',
    says: '{start} redirects {count} times; the engine follows {limit}.',
    remedy: 'Please let {start} redirect straight to the page where it ends; now it takes {count} steps.',
  },
  'reach.slow': {
    grade: 'harms',
    says: '{url} took {ms} ms to answer; engines give up after a few seconds.',
    remedy: 'Please look into why {url} takes {ms} ms to answer; engines give up after a few seconds.',
  },
  'reach.bot-wall': {
    grade: 'stops',
    open: true,
    says: '{url} answers {status} to us and 200 to a browser: a wall against programs, which may keep engines out too. What would make it sure: the wall’s list of programs that it lets in, or a visit of the engine in the server’s log that was answered with 200.',
    remedy:
      'Please let search engines pass the firewall in front of {url}; programs get the answer {status} there.',
  },
  'reach.framed': {
    grade: 'harms',
    says: '{url} is only a frame around {frame}: engines see an empty page.',
    remedy:
      'Please serve the website at {url} itself in place of framing {frame}, and keep the meta tags that are in its head.',
  },
  'reach.keeps-out-tag': {
    grade: 'harms',
    says: '{url} asks {whom} to stay away, by a robots meta tag on line {line}: “{found}”.',
    remedy:
      'Please take the robots tag “{found}” out of {url}, line {line}; it keeps the site out of search engines.',
  },
  'reach.keeps-out-header': {
    grade: 'harms',
    says: '{url} asks {whom} to stay away, by the header X-Robots-Tag: {found}.',
    remedy:
      'Please take the header “X-Robots-Tag: {found}” off {url}; it keeps the site out of search engines.',
  },
  'reach.keeps-out-robots': {
    grade: 'stops',
    says: '{robots} forbids {whom} to fetch {url}: “{found}” on line {line}.',
    remedy: 'Please take “{found}” out of {robots}, line {line}; it keeps {whom} off the website.',
  },
  'reach.robots-fails': {
    grade: 'stops',
    open: true,
    says: '{url} {answer}: engines take that for a ban on everything (RFC 9309).',
    remedy: 'Please make {url} answer, with 404 if there is none; while it {answer}, engines stay away.',
  },
} as const satisfies Record<string, CatalogueEntry>;
