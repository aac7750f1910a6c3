import type { Check } from '../../api/documents.js';
import { forecast } from './badge-mark.js';
import { paint, paragraph, plain, say, when } from './text.js';

/** One check as a block that can be read in five seconds: forecast, what was seen, what to send to the developer. */
export function printCheck(check: Check): void {
  say(`${forecast(check.forecast)}  ${paint.bold(plain(check.enrolment))} by ${check.method}`);
  for (const one of check.findings) {
    if (one.follows !== null) {
      paragraph('      ', `so also: ${plain(one.says)}`, paint.dim);
      continue;
    }
    paragraph('    ', `${one.grade === 'harms' ? 'harms: ' : ''}${plain(one.says)}`);
    const { otherSite } = one.evidence;
    if (typeof otherSite === 'string') say(paint.dim(`      (between us: that site is ${plain(otherSite)})`));
    if (one.remedy !== '') paragraph(`    ${paint.bold('→')} `, plain(one.remedy));
  }
  if (check.visibleAt !== null)
    say(`    ${paint.bold('wait')} until ${when(check.visibleAt)} UTC, then check again.`);
}

/** A method that is not in place and need not be: another one of the same enrolment is, or was tried. */
export function printSpare(check: Check, why: 'not needed' | 'not tried'): void {
  say(
    paint.dim(
      `· spare   ${plain(check.enrolment)} by ${check.method}: not placed${why === 'not needed' ? ', and not needed' : ''}`,
    ),
  );
}
