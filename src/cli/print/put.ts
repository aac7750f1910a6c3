import type { Enrolment, Placement } from '../../api/documents.js';
import { paint, plain, say, when } from './text.js';

/** Exactly what to put where, ready to copy: each value on a line of its own, without decoration. */
export function printPlacement(enrolment: Pick<Enrolment, 'name'>, placement: Placement): void {
  const { put } = placement;
  const expires =
    placement.expiresAt === null ? '' : paint.dim(`, expires unclaimed ${when(placement.expiresAt)} UTC`);
  say(`${paint.bold(plain(enrolment.name))} by ${placement.method}${expires}`);
  switch (put.kind) {
    case 'meta':
      say(`  into the <head> of ${plain(put.page)}`);
      say(`    ${plain(put.tag)}`);
      break;
    case 'file':
      say(
        `  a file ${plain(put.fileName)} (${String(put.bytes)} bytes), to be seen at ${plain(put.url)}, holding exactly`,
      );
      say(`    ${plain(put.content)}`);
      break;
    case 'dns':
      say(`  into the zone ${plain(put.zone)}, as a line of its file`);
      say(`    ${plain(put.zoneLine)}`);
      say('  or in a panel');
      say(`    name   ${plain(put.recordName)}`);
      say(`    type   ${put.type}`);
      say(`    value  ${plain(put.value)}`);
      break;
  }
}
