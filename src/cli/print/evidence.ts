import type {
  CheckWithEvidence,
  EvidenceSeen,
  HopSeen,
  MarkedPiece,
  ServerSeen,
} from '../../api/documents.js';
import { table } from './table.js';
import { paint, plain, say, when } from './text.js';
import { writtenDay } from '../../api/formats.js';

/** The whole evidence below a check: what should stand beside what stands, the way there, what each server said. */
export function printEvidence(check: CheckWithEvidence): void {
  const { seenThere, marked } = check;
  const often =
    check.times > 1
      ? `, with the same result ${String(check.times)} times since ${when(check.seenSince)} UTC`
      : '';
  say(paint.dim(`    checked ${when(check.checkedAt)} UTC at ${plain(check.place)}${often}`));
  if (marked) {
    say(`      should  ${pieces(marked.should)}`);
    say(`      stands  ${pieces(marked.stands)}`);
  }
  if (seenThere === null) say(paint.dim('    the evidence was deleted for its age'));
  else if (seenThere.kind === 'dns') printDns(seenThere);
  else printPage(seenThere);
}

/** Pieces that the other side does not have are set off by marks, and by colour where there is one. */
function pieces(all: readonly MarkedPiece[]): string {
  return all.map(({ text, same }) => (same ? plain(text) : paint.magenta(`⟦${plain(text)}⟧`))).join('');
}

function printPage(seen: EvidenceSeen & { kind: 'page' }): void {
  seen.hops.forEach((hop, at) => {
    printHop(hop, at + 1);
  });
  if (seen.bytes !== null)
    say(`      ${plain(seen.mediaType ?? 'no media type')}, ${String(seen.bytes)} bytes`);
  if (seen.fresh)
    say(`      past the caches: ${statusOf(seen.fresh.hops)}, ${String(seen.fresh.bytes ?? 0)} bytes`);
  if (seen.asBrowser) say(`      as a browser: ${String(seen.asBrowser.status ?? 'no answer')}`);
  for (const { url, status } of seen.elsewhere)
    say(paint.dim(`      also looked at ${plain(url)}: ${String(status ?? 'no answer')}`));
  for (const line of seen.around?.lines ?? []) {
    const isIt = line.number === seen.around?.line;
    say(`      ${String(line.number).padStart(5)} ${isIt ? '│' : paint.dim('│')} ${plain(line.text)}`);
  }
}

function printHop(hop: HopSeen, number: number): void {
  const answer = hop.status === null ? `${hop.failure ?? 'failed'}: ${hop.detail ?? ''}` : String(hop.status);
  const to = hop.location === null ? '' : ` → ${hop.location}`;
  const ms = `${String(hop.ms)} ms`;
  say(
    `      ${String(number)}. ${plain(`${hop.url} [${hop.address ?? 'no address'}] ${answer}${to}`)} (${ms})`,
  );
  const { certificate } = hop;
  if (certificate) {
    const until = writtenDay(certificate.validUntil);
    say(
      paint.dim(
        `         certificate for ${plain(certificate.names.join(', '))}, by ${plain(certificate.issuer)}, until ${until}`,
      ),
    );
  }
  for (const name of ['age', 'cache-control', 'via', 'x-robots-tag', 'content-encoding'])
    if (hop.headers[name] !== undefined) say(paint.dim(`         ${name}: ${plain(hop.headers[name])}`));
}

function statusOf(hops: readonly HopSeen[]): string {
  const last = hops.at(-1);
  return String(last?.status ?? last?.failure ?? 'no answer');
}

function printDns(seen: EvidenceSeen & { kind: 'dns' }): void {
  const what = seen.rcode ?? seen.failure ?? 'no answer';
  say(`      ${plain(seen.name)} TXT → ${what} from the resolver ${seen.server} over ${seen.via}`);
  for (const alias of seen.aliases) say(`      alias ${plain(alias)}`);
  for (const { value, ttl } of seen.records) say(`      “${plain(value)}” TTL ${String(ttl)} s`);
  if (seen.servers.length > 0)
    table(['      server', 'address', 'answers', 'serial', 'records there'], seen.servers.map(serverRow), '');
  for (const { name, records } of seen.nearby)
    say(`      at ${plain(name)}: ${records.map(({ value }) => `“${plain(value)}”`).join(', ')}`);
}

function serverRow(server: ServerSeen): string[] {
  const role = server.role === 'delegated' ? '' : ` (${server.role})`;
  const values = server.records.map(({ value }) => value).join(' | ');
  return [
    `      ${server.name}${role}`,
    server.address ?? '–',
    server.failure ?? `${server.rcode ?? ''}${server.authoritative ? '' : ', not its zone'}`,
    server.serial === null ? '–' : String(server.serial),
    server.alias === null ? values || '–' : `alias ${server.alias}`,
  ];
}
