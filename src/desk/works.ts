import { adoptWork } from './enrolments/adopting.js';
import { contentsWork } from './contents/contents-work.js';
import { publishWork } from './publishing/publish.js';
import { checkWork } from './checks/checks.js';
import { claimWork } from './claims/claims.js';
import { endWork } from './enrolments/ending.js';
import { enrolWork } from './enrolments/enrolling.js';
import { askWork } from './page-lookups/asking.js';
import { makeWork } from './renewals/renewal.js';
import { findWork } from './sitemaps/find.js';
import { readWork } from './sitemaps/reading.js';
import { submitWork } from './sitemaps/submitting.js';
import { withdrawWork } from './sitemaps/withdrawing.js';
import { deletionWork } from './handover/deletion.js';
import { holdersWork } from './handover/holders.js';
import { robotsWork } from './robots/judging.js';
import { tokenWork } from './tokens/tokens.js';
import { variantsWork } from './variants/variants-work.js';
import type { AnyWork } from './jobs/work.js';

/** Every kind of recorded work. */
export const WORK: readonly AnyWork[] = [
  variantsWork,
  enrolWork,
  endWork,
  adoptWork,
  tokenWork,
  checkWork,
  claimWork,
  findWork,
  askWork,
  makeWork,
  publishWork,
  contentsWork,
  robotsWork,
  readWork,
  submitWork,
  withdrawWork,
  holdersWork,
  deletionWork,
];
