import { describe, expect, test } from 'vitest';
import type Joi from 'joi';
import { schemas } from '../../src/api/requests.js';
import { faultInWords } from '../../src/core/input/input-faults.js';

/** Words of the validator, and of nobody else. */
const RAW =
  /must be|is required\b|not allowed|does not match|fails|pattern|"[a-z]|\[\d+\]|undefined|\[object|NaN|ref:|conflict|alternatives/u;
/** What somebody may send where it does not fit. */
const WRONG: readonly unknown[] = [
  {},
  [],
  [[]],
  '',
  ' ',
  'x'.repeat(60_000),
  -1,
  1.5,
  1e12,
  true,
  null,
  'nonsense ⛵',
];

/** Every field that a person can fill in, with what is said of each that does not fit. */
const FIELDS = Object.entries(schemas).flatMap(([route, places]) =>
  (['params', 'query', 'body'] as const).flatMap((place) => {
    const schema = (places as Partial<Record<typeof place, Joi.ObjectSchema>>)[place];
    const keys = schema ? Object.keys((schema.describe() as { keys?: object }).keys ?? {}) : [];
    return schema ? keys.map((key) => [`${route} ${place}.${key}`, schema, key] as const) : [];
  }),
);

const told = (schema: Joi.ObjectSchema | undefined, value: unknown): string[] =>
  (
    schema?.validate(value, { abortEarly: false, errors: { wrap: { label: false } } }).error?.details ?? []
  ).map((detail) => faultInWords(detail));

describe('what is said of input that does not fit', () => {
  test('is known for every field of every route', () => {
    expect(FIELDS.length).toBeGreaterThan(120);
  });

  test.each(FIELDS)('%s', (_, schema, key) => {
    const all = [
      ...WRONG.flatMap((value) => told(schema, { [key]: value })),
      ...told(schema, {}),
      ...told(schema, { [key]: 'x', colour: 'green' }),
      ...told(schema, 'nonsense'),
    ];
    expect(all.length).toBeGreaterThan(0);
    for (const says of all) {
      expect(says).not.toMatch(RAW);
      expect(says).toMatch(/^[A-Z“0-9].*\.$/u);
      expect(says.length).toBeLessThan(600);
    }
  });

  test.each<[string, Joi.ObjectSchema | undefined, string, unknown, string]>([
    ['a letter', schemas.writeLetters.body, 'text', 'x'.repeat(30_000), 'The text of the letter is too long'],
    ['what was pasted', schemas.pasteToken.body, 'text', 'x'.repeat(30_000), 'What was pasted is too long'],
    [
      'a robots.txt',
      schemas.keepRobots.body,
      'text',
      'x'.repeat(60_000),
      'The text of the robots.txt is too',
    ],
    ['a report', schemas.writeReport.query, 'from', 7, '“7” is no text, as was expected for the first day'],
    ['readings', schemas.compareReadings.query, 'from', '', 'The earlier reading is empty'],
    ['a place in a zone', schemas.addTarget.body, 'zone', '', 'The DNS zone is empty'],
    ['a person’s mails', schemas.editRecipient.body, 'zone', '', 'The time zone is empty'],
    ['their pace', schemas.editRecipient.body, 'atOnce', 3, '“3” is neither true nor false'],
    ['a website’s', schemas.editRecipe.body, 'atOnce', 0, 'The number of requests at once is “0”'],
    ['cases', schemas.listAlerts.query, 'kind', 'x', '“x” does not fit the kind of alert'],
    ['happenings', schemas.journal.query, 'kind', '7!', '“7!” does not fit the kind of happening'],
    ['steps', schemas.putOffSteps.body, 'kind', 'x', '“x” does not fit the kind of step'],
  ])('calls the same name by what it is for %s', (_, schema, key, value, says) => {
    expect(told(schema, { [key]: value }).find((one) => one.startsWith(says))).toBeDefined();
  });

  test('says a name that nobody asks for as it was sent', () => {
    expect(told(schemas.addClient.body, { 'my own name': 'x' })).toContain(
      '“my own name” is nothing that is asked for here.',
    );
  });

  test('calls things as people do', () => {
    const { body } = schemas.addClient;
    expect(told(body, { name: '', handle: 'My Boat', audience: [''] })).toEqual([
      'The client’s name is empty.',
      '“My Boat” does not fit the handle; expected lower-case letters, digits and hyphens, such as “ferries”.',
      'Number 1 of the audience is empty.',
    ]);
    expect(told(schemas.claim.body, { all: true, enrolments: ['x'], client: 'y' })).toEqual([
      'Give only one of enrolments and client.',
    ]);
    expect(told(schemas.enrol.body, { properties: ['x'], missing: true, engines: ['y'] })).toEqual([
      'Give only one of properties and missing.',
    ]);
  });
});
