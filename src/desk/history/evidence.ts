import { textOf } from '../../core/html/body-text.js';
import type { EvidenceSeen, HopSeen, PageSeenShort } from '../../api/documents.js';
import type {
  DnsEvidence,
  Evidence,
  Hop,
  PageEvidence,
  PageSeen,
  TxtRecord,
} from '../../core/badge/probe/evidence.js';
import { surroundings } from '../../core/badge/probe/surroundings.js';
import { excerpt } from '../../core/findings/excerpt.js';
import type { Finding } from '../../core/findings/finding.js';

/** TXT records kept as evidence, and characters of each. */
const KEPT_RECORDS = 50;
const KEPT_CHARACTERS = 300;

/** What is kept of the evidence: everything but the bodies, of which the part around the find is kept. */
export function keptEvidence(evidence: Evidence, findings: readonly Finding[]): EvidenceSeen {
  return evidence.kind === 'dns' ? keptDns(evidence) : keptPage(evidence, findings);
}

function keptDns(evidence: DnsEvidence): EvidenceSeen {
  return {
    ...evidence,
    records: keptRecords(evidence.records),
    aliases: [...evidence.aliases],
    wildAddresses: [...evidence.wildAddresses],
    servers: evidence.servers.map((server) => ({ ...server, records: keptRecords(server.records) })),
    nearby: evidence.nearby.map((one) => ({ ...one, records: keptRecords(one.records) })),
  };
}

function keptRecords(records: readonly TxtRecord[]): { value: string; ttl: number }[] {
  return records
    .slice(0, KEPT_RECORDS)
    .map(({ value, ttl }) => ({ value: excerpt(value, KEPT_CHARACTERS), ttl }));
}

function keptPage(evidence: PageEvidence, findings: readonly Finding[]): EvidenceSeen {
  return {
    kind: 'page',
    ...keptWay(evidence),
    fresh: evidence.fresh && keptWay(evidence.fresh),
    asBrowser: evidence.asBrowser && { status: evidence.asBrowser.status },
    elsewhere: evidence.elsewhere.map(({ url, kind, hops }) => ({
      url,
      kind,
      status: hops.at(-1)?.status ?? null,
    })),
    around: around(evidence, findings),
  };
}

function keptWay({ end, hops, body }: PageSeen): PageSeenShort {
  return { end, hops: hops.map(keptHop), mediaType: body?.mediaType ?? null, bytes: body?.bytes ?? null };
}

function keptHop(hop: Hop): HopSeen {
  const certificate = hop.certificate && {
    ...hop.certificate,
    names: [...hop.certificate.names].slice(0, 50),
  };
  return { ...hop, headers: { ...hop.headers }, certificate, ms: Math.round(hop.ms) };
}

/** The lines around the tag that the findings speak of. */
function around(
  { body }: PageEvidence,
  findings: readonly Finding[],
): (EvidenceSeen & { kind: 'page' })['around'] {
  const at = findings.find(
    ({ evidence }) => typeof evidence['line'] === 'number' && typeof evidence['column'] === 'number',
  );
  if (!at || body === null) return null;
  const found = surroundings(textOf(body), Number(at.evidence['line']), Number(at.evidence['column']));
  return found && { ...found, lines: found.lines.map((line) => ({ ...line })) };
}

/** Evidence as it is shown; records of earlier versions lack what was not looked for then. */
export function viewEvidence(stored: unknown): EvidenceSeen {
  const seen = stored as EvidenceSeen;
  if (seen.kind === 'dns')
    return { ...{ zone: null, servers: [], nearby: [], wildcard: false, wildAddresses: [] }, ...seen };
  const hops = seen.hops.map((hop) => ({ ...{ certificate: null }, ...hop }));
  return { ...{ fresh: null, asBrowser: null, elsewhere: [], around: null }, ...seen, hops };
}
