/** What people said of a step: who does it, or that it is left until a day. It is theirs; whether the step is there is the facts'. */
export interface StepAssignment {
  /** Who does it; null where nobody was named. */
  readonly person: { readonly id: string; readonly name: string } | null;
  /** Until when it is left, and why; null where it is not. */
  readonly putOff: { readonly until: Date; readonly why: string; readonly who: string | null } | null;
}

export const UNASSIGNED: StepAssignment = { person: null, putOff: null };

/** In the place of the kind of a step that is put off: such come last, however bad they are. */
export const PUT_OFF = 'put-off';

/** What of a mark counts at a time: what was put off until a day is back on it. */
export function assignmentAt({ person, putOff }: StepAssignment, now: Date): StepAssignment {
  return { person, putOff: putOff && putOff.until > now ? putOff : null };
}

/** Whether two steps with these marks are one entry of a list. @returns a text that is the same where they are */
export function assignmentKey({ person, putOff }: StepAssignment): string {
  return JSON.stringify([person?.id, putOff?.until, putOff?.why]);
}
