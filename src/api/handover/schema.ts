import Joi from 'joi';
import { badge, engineRef, flag, id, list, maybe, maybeTime, method, text, time } from '../parts/schema.js';
import type { Handover, HandoverEnrolment, HandoverItem, HolderShown, Standing } from './document.js';

const standing = { engine: id, enrolment: id, place: id, what: text };

export const handover = Joi.object<Handover, true>({
  client: id,
  name: text,
  begun: Joi.object<NonNullable<Handover['begun']>, true>({
    at: time,
    by: maybe,
    deleteOn: maybeTime,
    endedAt: maybeTime,
  })
    .allow(null)
    .required(),
  enrolments: list(
    Joi.object<HandoverEnrolment, true>({
      enrolment: id,
      engine: engineRef,
      account: id,
      badge: badge.required(),
      method: method.allow(null).required(),
      holders: Joi.object<NonNullable<HandoverEnrolment['holders']>, true>({
        at: time,
        items: list(
          Joi.object<HolderShown, true>({
            account: id,
            since: time,
            method: method.allow(null).required(),
            own: flag,
          }),
        ),
        says: maybe,
      })
        .allow(null)
        .required(),
    }),
  ),
  stays: list(Joi.object<Standing, true>(standing)),
  mayGo: list(Joi.object<Standing, true>(standing)),
  accounts: list(
    Joi.object<Handover['accounts'][number], true>({
      engine: engineRef,
      name: id,
      shared: flag,
      passedOnAt: maybeTime,
    }),
  ),
  foreign: list(Joi.object<Handover['foreign'][number], true>({ ...standing, says: text })),
  items: list(
    Joi.object<HandoverItem, true>({
      item: id,
      says: id,
      done: Joi.object<NonNullable<HandoverItem['done']>, true>({ at: maybeTime, by: maybe, note: maybe })
        .allow(null)
        .required(),
    }),
  ),
}).id('Handover');
