import { registrableOf } from '../address/host.js';
import { addressText, parseAddress, type WebAddress } from '../address/web-address.js';
import { excerpt } from '../findings/excerpt.js';
import { finding, type FindingCode } from '../findings/catalogue.js';
import type { Finding } from '../findings/finding.js';
import type { StepKind } from './follow.js';
import type { VariantJudged } from './roles.js';
import { isTyped } from './to-try.js';
import { writtenDay } from '../time/time-formats.js';

const DAY_MS = 86_400_000;
/** A certificate with no more days left than this is one to renew: automatic renewal would have happened by then. */
const FEW_DAYS = 20;
/** More steps than this are worth telling. */
const FEW_STEPS = 2;

const WEAK: Readonly<Record<Exclude<StepKind, 'permanent'>, FindingCode>> = {
  temporary: 'variants.temporary',
  refresh: 'variants.by-refresh',
  script: 'variants.by-script',
};

/** What is wrong with the ways from the variants to the front door, and with those that lead nowhere. */
export function judgeWays(
  variants: readonly VariantJudged[],
  door: WebAddress,
  takenOn: WebAddress,
): Finding[] {
  const at = addressText(door);
  return variants.flatMap((one) => {
    if (one.address === at)
      return one.address.startsWith('http:') ? [finding('variants.no-https', { url: at })] : [];
    switch (one.role) {
      case 'dark':
        return [dark(one, at, takenOn)];
      case 'closed':
        return [finding('variants.closed', { url: one.address, detail: one.says, door: at })];
      case 'leads':
        return leads(one, at);
      case 'elsewhere':
        return elsewhere(one, door);
      case 'broken-certificate':
      case 'front-door':
      case 'answers':
      case 'framed':
        return [];
    }
  });
}

function dark(one: VariantJudged, door: string, takenOn: WebAddress): Finding {
  const values = { url: one.address, detail: one.says, door };
  if (one.seen.end === 'loop' || one.seen.end === 'too-many-hops') return finding('variants.circle', values);
  const { host } = parseAddress(one.address);
  const isMissed = isTyped(host, takenOn) || one.seen.why === 'by-hand';
  return finding(isMissed ? 'variants.dark' : 'variants.dark-unused', values);
}

function leads({ address, via, seen }: VariantJudged, door: string): Finding[] {
  const values = { url: address, door };
  const count = seen.steps.length;
  const weak = seen.steps.find(({ kind }) => kind === via);
  return [
    ...(via === null || via === 'permanent'
      ? []
      : [finding(WEAK[via], { ...values, status: weak?.status ?? null })]),
    ...downgrade(address, seen.steps),
    ...(count > FEW_STEPS ? [finding('variants.long-way', { ...values, count })] : []),
  ];
}

function elsewhere({ address, endsAt, seen }: VariantJudged, door: WebAddress): Finding[] {
  const to = endsAt ?? seen.endsAt;
  const isAway = registrableOf(new URL(to).hostname) !== registrableOf(door.host);
  const code = isAway ? 'variants.leads-away' : 'variants.leads-elsewhere';
  return [finding(code, { url: address, to, door: addressText(door) }), ...downgrade(address, seen.steps)];
}

function downgrade(url: string, steps: VariantJudged['seen']['steps']): Finding[] {
  const at = steps.find((step) => step.url.startsWith('https:') && step.to.startsWith('http:'));
  return at ? [finding('variants.downgrade', { url, to: at.to })] : [];
}

/** Certificates that warn visitors away or soon will, and hosts that HSTS shuts out for want of one (RFC 6797). */
export function judgeCertificates(
  variants: readonly VariantJudged[],
  door: WebAddress | null,
  now: Date,
): Finding[] {
  const at = door && addressText(door);
  const told = new Set<string>();
  const findings = variants.flatMap((one) => {
    const { certificate, steps } = one.seen;
    const { host } = parseAddress(one.address);
    const values = {
      url: one.address,
      host,
      issuer: excerpt(certificate?.issuer ?? 'nobody'),
      until: certificate ? writtenDay(certificate.validUntil) : 'an unknown day',
    };
    // Where only a step behind it is broken, the variant that shows the certificate tells of it.
    if (one.role === 'broken-certificate')
      return steps.length > 0 && variants.some(({ address }) => one.seen.endsAt.startsWith(address))
        ? []
        : one.address === at
          ? []
          : [finding('variants.broken-certificate', { ...values, detail: one.says })];
    const days = certificate
      ? Math.floor((Date.parse(certificate.validUntil) - now.getTime()) / DAY_MS)
      : null;
    if (days === null || days > FEW_DAYS || told.has(host)) return [];
    told.add(host);
    return [finding('variants.certificate-ends', { ...values, days })];
  });
  return [...findings, ...judgeHsts(variants, door)];
}

function judgeHsts(variants: readonly VariantJudged[], door: WebAddress | null): Finding[] {
  const overAll = variants.filter(
    ({ address, seen }) => address.startsWith('https:') && coversSubdomains(seen.hsts),
  );
  const shutOut = variants.flatMap(({ address, role }) => {
    if (!address.startsWith('https:') || (role !== 'dark' && role !== 'broken-certificate')) return [];
    const { host } = parseAddress(address);
    const by = overAll.find((one) => host.endsWith(`.${parseAddress(one.address).host}`));
    // A name that does not exist shuts nobody out.
    const plain = variants.find((one) => one.address === address.replace(/^https:/u, 'http:'));
    const isThere = plain !== undefined && plain.role !== 'dark';
    return by && isThere ? [finding('variants.hsts-shuts-out', { url: address, by: by.address })] : [];
  });
  const at = door && variants.find(({ address }) => address === addressText(door));
  const isPlain = at?.role === 'front-door' && at.address.startsWith('https:') && at.seen.hsts === null;
  return [...shutOut, ...(isPlain ? [finding('variants.no-hsts', { url: at.address })] : [])];
}

function coversSubdomains(header: string | null): boolean {
  return header !== null && /includesubdomains/iu.test(header) && !/max-age\s*=\s*"?0\b/iu.test(header);
}
