import type { EvidenceSeen, HopSeen, PageSeenShort } from '../../../../api/documents.js';
import { writtenDay } from '../../../../api/formats.js';

type PageEvidence = EvidenceSeen & { kind: 'page' };

const CACHE = ['age', 'cache-control', 'via', 'x-cache'];

/** Scheme and host, and the path where it is more than the root. */
function short(url: string): string {
  const { protocol, host, pathname } = new URL(url);
  return `${protocol}//${host}${pathname === '/' ? '' : pathname}`;
}

function Stop({ hop, last }: { hop: HopSeen; last: boolean }) {
  const good = hop.status === 200;
  return (
    <li className="flex flex-wrap items-center gap-x-2 gap-y-1">
      <span className="border border-rule bg-paper px-2 py-0.5 font-mono text-[13px] break-all">
        {short(hop.url)}
      </span>
      <span className={good || !last ? 'text-faint' : 'font-semibold text-stops'}>
        {hop.status === null ? (hop.failure ?? 'no answer') : String(hop.status)}
        {!last && <span aria-label="leads to"> →</span>}
      </span>
    </li>
  );
}

function Line({ seen }: { seen: PageSeenShort }) {
  return (
    <ol className="flex flex-wrap gap-x-2 gap-y-1" aria-label="The way">
      {seen.hops.map((hop, at) => (
        <Stop key={at} hop={hop} last={at === seen.hops.length - 1} />
      ))}
    </ol>
  );
}

function Details({ hop, seen }: { hop: HopSeen; seen: PageEvidence }) {
  const { certificate } = hop;
  const caches = CACHE.filter((name) => hop.headers[name] !== undefined);
  const rows: [string, string][] = [
    ['answered by', `${hop.address ?? 'no address'} in ${String(hop.ms)} ms`],
    ...(hop.failure === null ? [] : ([['failure', hop.detail ?? hop.failure]] as [string, string][])),
    ...(certificate
      ? ([
          [
            'certificate',
            `for ${certificate.names.join(', ')}, by ${certificate.issuer}, until ${writtenDay(certificate.validUntil)}`,
          ],
        ] as [string, string][])
      : []),
    ...caches.map((name): [string, string] => [name, hop.headers[name] ?? '']),
    ...(seen.bytes === null
      ? []
      : ([['page', `${seen.mediaType ?? 'no media type'}, ${String(seen.bytes)} bytes`]] as [
          string,
          string,
        ][])),
    ...(seen.asBrowser
      ? ([['to a browser', String(seen.asBrowser.status ?? 'no answer')]] as [string, string][])
      : []),
    ...seen.elsewhere.map(({ url, status }): [string, string] => [
      `also ${short(url)}`,
      String(status ?? 'no answer'),
    ]),
  ];
  return (
    <dl className="mt-2 grid gap-x-3 gap-y-0.5 text-[13px] sm:grid-cols-[minmax(5rem,auto)_1fr]">
      {rows.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="break-all text-faint">{name}</dt>
          <dd className="font-mono break-all">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** The way to the page as a line of stops, what came past the caches below it, and the rest on demand. */
export function Way({ seen }: { seen: PageEvidence }) {
  const last = seen.hops.at(-1);
  return (
    <div className="mt-2">
      <Line seen={seen} />
      {seen.fresh && (
        <div className="mt-1 flex flex-wrap items-baseline gap-x-2 text-faint">
          past the caches: <Line seen={seen.fresh} />
        </div>
      )}
      {last && (
        <details className="mt-1">
          <summary className="cursor-pointer text-faint">What else was seen</summary>
          <Details hop={last} seen={seen} />
        </details>
      )}
    </div>
  );
}
