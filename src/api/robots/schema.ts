import Joi from 'joi';
import { count, flag, id, list, maybe, maybeCount, text, time } from '../parts/schema.js';
import type { RobotsKept, RobotsShown } from './document.js';

type Verdict = RobotsShown['verdicts'][number];

export const robotsShown = Joi.object<RobotsShown, true>({
  url: id,
  status: maybeCount,
  draft: flag,
  text,
  verdicts: list(
    Joi.object<Verdict, true>({
      address: id,
      agents: list(
        Joi.object<Verdict['agents'][number], true>({
          title: id,
          allowed: flag,
          group: id,
          rule: maybe,
          line: maybeCount,
        }),
      ),
    }),
  ),
  faults: list(Joi.object<RobotsShown['faults'][number], true>({ line: count, text, says: id })),
  proposal: maybe,
  stands: maybe,
}).id('RobotsShown');

export const robotsKept = Joi.object<RobotsKept, true>({ text, over: maybe, at: time, by: maybe }).id(
  'RobotsKept',
);
