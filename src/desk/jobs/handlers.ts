import { runAdopt } from '../adopting.js';
import { runCheck } from '../checks.js';
import { runClaim } from '../claims.js';
import { runEnd } from '../ending.js';
import { runEnrol } from '../enrolling.js';
import { runFind } from '../sitemap/find.js';
import { runAsk } from '../single-pages.js';
import { runRead } from '../sitemap/reading.js';
import { runSubmit } from '../sitemap/submitting.js';
import { runWithdraw } from '../sitemap/withdrawing.js';
import { runToken } from '../tokens.js';
import { runVariants } from '../variants/looking.js';
import type { Handler } from './runner.js';

/** Every kind of recorded work. */
export const HANDLERS: Readonly<Record<string, Handler>> = {
  variants: runVariants,
  enrol: runEnrol,
  end: runEnd,
  adopt: runAdopt,
  token: runToken,
  check: runCheck,
  claim: runClaim,
  'find-sitemaps': runFind,
  ask: runAsk,
  read: runRead,
  submit: runSubmit,
  withdraw: runWithdraw,
};
