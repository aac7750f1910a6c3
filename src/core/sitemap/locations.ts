import { finding, graded } from '../findings/catalogue.js';
import type { Finding } from '../findings/finding.js';
import type { FileReading } from './reading.js';

/** Which hosts let a sitemap speak for them: their robots.txt names it. */
export interface Leave {
  /** Whether the robots.txt of the file's own host names it, or the index in which it stands. */
  readonly own: boolean;
  readonly hosts: ReadonlySet<string>;
}

/**
 * The location rule with its exception: a sitemap may list what is beside its folder, or on another host, where the
 * robots.txt of that host names it (sitemaps.org protocol, "Sitemaps & Cross Submits").
 */
export function withLeave(url: string, reading: FileReading, leave: Leave): Finding[] {
  const left = reading.onOtherHosts.filter(({ host }) => !leave.hosts.has(host));
  const allowed = reading.onOtherHosts.filter(({ host }) => leave.hosts.has(host));
  const findings = reading.findings.flatMap((one): Finding[] => {
    switch (one.code) {
      case 'sitemap.other-host':
      case 'sitemap.child-elsewhere': {
        if (allowed.length === 0) return [one];
        const [first] = left;
        if (!first) return [];
        const count = left.reduce((sum, host) => sum + host.count, 0);
        const { line, column } = first;
        const examples = left.slice(0, 3).map((host) => host.first);
        return [
          finding(one.code, {
            ...one.evidence,
            count,
            first: first.first,
            line,
            column,
            examples: examples.join(' · '),
          }),
        ];
      }
      case 'sitemap.outside':
        return leave.own ? [graded('note', one)] : [one];
      default:
        return [one];
    }
  });
  const [host] = allowed;
  if (!host) return findings;
  const count = allowed.reduce((sum, one) => sum + one.count, 0);
  const hosts = allowed.map((one) => one.host).join(', ');
  return [...findings, finding('sitemap.other-host-allowed', { url, count, hosts, first: host.first })];
}
