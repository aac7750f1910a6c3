/** Every kind of step in the order of harm: what is lost or about to be comes before what is merely unfinished. */
export const STEP_KINDS = [
  'mend-site',
  'prove-again',
  'repair',
  'enrol-again',
  'ask-engine',
  'enrol-door',
  'claim',
  'renew',
  'mend-sitemap',
  'submit-sitemap',
  'check',
  'renew-token',
  'write-again',
  'publish',
  'place',
  'get-token',
  'end-there',
  'enrol',
  'read-sitemap',
  'withdraw-sitemap',
  'wait',
  'none',
] as const;
export type StepKind = (typeof STEP_KINDS)[number];

/** Who has to do something: we, the client's people, the engine; or only time has to pass. */
export const ACTS = ['us', 'client', 'engine', 'time'] as const;
export type Acts = (typeof ACTS)[number];

/** Steps about one cause: which of them it is changes as it gets worse or better. */
const CAUSES: Readonly<Record<string, readonly StepKind[]>> = {
  proof: [
    ...(['get-token', 'renew-token', 'place', 'publish', 'check', 'claim', 'ask-engine'] as const),
    ...(['repair', 'prove-again', 'mend-site', 'wait'] as const),
  ],
  sitemap: ['submit-sitemap', 'mend-sitemap', 'read-sitemap', 'withdraw-sitemap'],
  enrolment: ['enrol', 'enrol-door', 'enrol-again', 'end-there'],
};

/** What a kind of step is about. */
export function causeOf(kind: string): string {
  return Object.entries(CAUSES).find(([, kinds]) => kinds.some((one) => one === kind))?.[0] ?? kind;
}
