import type { Check, CheckWithEvidence, EvidenceSeen } from '../../api/documents.js';
import { forecast } from './marks.js';
import { paint, plain, say, when } from './text.js';

/** One check as a block that can be read in five seconds: forecast, what was seen, what to send to the developer. */
export function printCheck(check: Check): void {
  say(`${forecast(check.forecast)}  ${paint.bold(plain(check.enrolment))} by ${check.method}`);
  for (const one of check.findings) {
    say(`    ${plain(one.says)}`);
    if (one.remedy !== '') say(`    ${paint.cyan('→')} ${plain(one.remedy)}`);
  }
  if (check.visibleAt !== null)
    say(`    ${paint.dim(`Asking again makes sense from ${when(check.visibleAt)} UTC.`)}`);
}

/** A method that is not in place and need not be: another one of the same enrolment is. */
export function printSpare(check: Check): void {
  say(paint.dim(`· spare   ${plain(check.enrolment)} by ${check.method}: not placed, and not needed`));
}

/** The whole evidence below the block. */
export function printEvidence(check: CheckWithEvidence): void {
  say(
    paint.dim(
      `    looked ${when(check.checkedAt)} UTC at ${plain(check.place)}; so since ${when(check.seenSince)} UTC`,
    ),
  );
  for (const line of evidenceLines(check.seenThere)) say(`      ${plain(line)}`);
}

function evidenceLines(seen: EvidenceSeen): string[] {
  if (seen.kind === 'dns') {
    const head = `${seen.name} TXT → ${seen.rcode ?? seen.failure ?? 'no answer'} from ${seen.server} over ${seen.via}`;
    const aliases = seen.aliases.map((alias) => `alias ${alias}`);
    return [
      head,
      ...aliases,
      ...seen.records.map((record) => `“${record.value}” TTL ${String(record.ttl)} s`),
    ];
  }
  const hops = seen.hops.map((hop, at) => {
    const answer =
      hop.status === null ? `${hop.failure ?? 'failed'}: ${hop.detail ?? ''}` : String(hop.status);
    const to = hop.location === null ? '' : ` → ${hop.location}`;
    return `${String(at + 1)}. ${hop.url} [${hop.address ?? 'no address'}] ${answer}${to} (${String(hop.ms)} ms)`;
  });
  return [
    ...hops,
    ...(seen.bytes === null ? [] : [`${seen.mediaType ?? 'no media type'}, ${String(seen.bytes)} bytes`]),
  ];
}
