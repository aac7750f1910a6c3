import type { Enrolment, Placement } from '../../api/documents.js';
import { placementLine } from '../../api/placement-line.js';
import { paint, plain, say, when } from './text.js';

/** Exactly what to put where, ready to copy: each value on a line of its own, without decoration. */
export function printPlacement(enrolment: Pick<Enrolment, 'name'>, placement: Placement): void {
  const { put } = placement;
  const expires =
    placement.expiresAt === null ? '' : paint.dim(`, expires unclaimed ${when(placement.expiresAt)} UTC`);
  say(`${paint.bold(plain(enrolment.name))} by ${placement.method}${expires}`);
  printPast(placement);
  switch (put.kind) {
    case 'meta':
      say(`  into the <head> of ${plain(put.page)}`);
      say(`    ${plain(put.tag)}`);
      say('  or, where a content system asks for the value alone in a box of its own');
      say(`    ${plain(put.content)}`);
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

const WHY: Readonly<Record<NonNullable<Placement['before']>['why'], string>> = {
  expired: 'expired unclaimed',
  changed: 'the engine handed out another',
  forgotten: 'taken back here',
};

/** What stood or stands elsewhere: an old token beside the new one, and where the account's token is in place already. */
function printPast({ before, standsAt, ofAccount, recordedBy, token }: Placement): void {
  if (recordedBy !== null) say(paint.dim(`  pasted by ${plain(recordedBy)}`));
  if (before) {
    const why = WHY[before.why];
    say(
      paint.magenta(
        `  ! old since ${when(before.replacedAt)} UTC (${why}); leave it where it stands until the new one is confirmed:`,
      ),
    );
    say(`    was  ${plain(placementLine(before.put))}`);
    say(`    now  ${plain(token)}`);
  }
  if (ofAccount) say(paint.dim('  the token of the account: the same for each site under it'));
  for (const one of standsAt)
    say(`  the same token as for ${plain(one.enrolment)}, which stands at ${plain(one.place)}`);
}
