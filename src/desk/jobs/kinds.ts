import { adoptWork } from '../adopting.js';
import { checkWork } from '../checks.js';
import { claimWork } from '../claims.js';
import { endWork } from '../ending.js';
import { enrolWork } from '../enrolling.js';
import { askWork } from '../single-pages.js';
import { findWork } from '../sitemap/find.js';
import { readWork } from '../sitemap/reading.js';
import { submitWork } from '../sitemap/submitting.js';
import { withdrawWork } from '../sitemap/withdrawing.js';
import { tokenWork } from '../tokens.js';
import { variantsWork } from '../variants/looking.js';
import type { AnyWork } from './work.js';

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
  readWork,
  submitWork,
  withdrawWork,
];
