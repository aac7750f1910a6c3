import type { EvidenceSeen, ServerSeen } from '../../../../api/documents.js';

type DnsEvidence = EvidenceSeen & { kind: 'dns' };

const ROLES: Readonly<Record<ServerSeen['role'], string>> = {
  delegated: '',
  'self-named': 'not delegated to',
  former: 'not delegated to any more',
};

interface RowData {
  who: string;
  role: string;
  says: string;
  serial: string;
  values: readonly string[];
}

function rowsOf(seen: DnsEvidence): RowData[] {
  return [
    ...seen.servers.map((one) => ({
      who: one.name,
      role: ROLES[one.role],
      says: one.failure ?? `${one.rcode ?? ''}${one.authoritative ? '' : ', not its zone'}`,
      serial: one.serial === null ? '' : String(one.serial),
      values: one.alias === null ? one.records.map(({ value }) => value) : [`alias of ${one.alias}`],
    })),
    {
      who: 'the resolver',
      role: seen.server,
      says: seen.failure ?? seen.rcode ?? 'no answer',
      serial: '',
      values: seen.records.map(({ value, ttl }) => `${value} (${String(ttl)} s)`),
    },
    ...seen.nearby.map(({ name, records }) => ({
      who: name,
      role: 'another name',
      says: '',
      serial: '',
      values: records.map(({ value }) => value),
    })),
  ];
}

/** What each server of the zone said, the resolver below them, and what stands at other names. */
export function Servers({ seen, wanted }: { seen: DnsEvidence; wanted: string }) {
  return (
    <table className="mt-2 w-full text-[13px] max-md:block">
      <caption className="sr-only">What each name server says of {seen.name}</caption>
      <thead className="text-faint max-md:sr-only">
        <tr>
          {['Server', 'Answers', 'Serial', 'Records'].map((title) => (
            <th key={title} scope="col" className="pr-4 pb-1 font-normal">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody className="max-md:block">
        {rowsOf(seen).map(({ who, role, says, serial, values }) => (
          <tr key={who} className="border-t border-rule align-top max-md:block max-md:py-1">
            <th scope="row" className="py-1 pr-4 font-mono font-normal break-all max-md:block">
              {who}
              {role !== '' && <span className="block font-sans text-faint">{role}</span>}
            </th>
            <td className="py-1 pr-4 max-md:inline-block">{says}</td>
            <td className="py-1 pr-4 tabular-nums max-md:inline-block">{serial}</td>
            <td className="py-1 font-mono break-all max-md:block">
              {values.length === 0 && <span className="font-sans text-faint">none</span>}
              {values.map((value) => (
                <span key={value} className="block">
                  {value.startsWith(wanted) ? <strong>✓ {value}</strong> : value}
                </span>
              ))}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
