/** What a name stands for wherever it is asked for. What a field alone calls so stands with it, as its label. */
const CALLED: Readonly<Record<string, string>> = {
  account: 'the account',
  address: 'the address',
  addresses: 'the list of addresses',
  after: 'the place “after”',
  audience: 'the audience',
  badge: 'the badge',
  client: 'the client',
  contact: 'the contact',
  contacts: 'the list of contacts',
  email: 'the e-mail address',
  engine: 'the engine',
  engines: 'the list of engines',
  enrolment: 'the enrolment',
  enrolments: 'the list of enrolments',
  facts: 'the facts',
  handle: 'the handle',
  host: 'the host',
  id: 'the identifier',
  key: 'the key',
  keyFrom: 'the variable that holds the key',
  label: 'the label',
  language: 'the language',
  limit: 'the limit',
  match: 'the text to look for',
  method: 'the method',
  password: 'the password',
  person: 'the person',
  profile: 'the profile',
  properties: 'the list of properties',
  property: 'the property',
  sitemap: 'the sitemap',
  submissions: 'the list of submissions',
  subject: 'the subject',
  url: 'the address',
};

/** What is expected, where a form says it better than its rule. */
const EXPECTED: Readonly<Record<string, string>> = {
  handle: 'expected lower-case letters, digits and hyphens, such as “ferries”',
  keyFrom: 'expected the name of an environment variable, such as YARDBADGE_KEY_SUNDREL',
};

/** What a message of the validator is about. */
export interface FaultFound {
  readonly type: string;
  readonly path: readonly (string | number)[];
  readonly context?: Readonly<Record<string, unknown>> | undefined;
}

/** What somebody gave, short enough to be said again. */
function given(value: unknown): string {
  const text = typeof value === 'string' ? value : (JSON.stringify(value) ?? String(value));
  const plain = text.replace(/\p{C}/gu, '');
  return `“${plain.length > 60 ? `${plain.slice(0, 60)}…` : plain}”`;
}

/** A key of a file, as it is written there: `“worked.how”`. */
export function asKey(path: readonly (string | number)[]): string {
  return path.length === 0 ? 'the file' : `“${path.join('.')}”`;
}

/** @param label of the field, as its schema has it; what the validator makes of the path where it has none */
function called(path: readonly (string | number)[], label: string | undefined): string {
  const name = path.findLast((part) => typeof part === 'string') ?? '';
  const place = path.findLast((part) => typeof part === 'number');
  const isOwn = label !== undefined && label !== asLabel(path) && path.length > 0;
  const words = isOwn ? label : (CALLED[name] ?? `“${name}”`);
  return place === undefined ? words : `number ${String(place + 1)} of ${words}`;
}

/** What the validator calls a field that has no label: its path. */
function asLabel(path: readonly (string | number)[]): string {
  return path
    .map((part) => (typeof part === 'number' ? `[${String(part)}]` : `.${part}`))
    .join('')
    .replace(/^\./u, '');
}

function listed(words: readonly unknown[], link: string): string {
  const texts = words.filter((word) => word !== null && word !== '').map(String);
  return texts.length < 2 ? texts.join('') : `${texts.slice(0, -1).join(', ')} ${link} ${texts.at(-1) ?? ''}`;
}

/**
 * One fault of what was sent, as one says it to a person: what is wrong with what, and what was expected. No word of the
 * validator's own is in it.
 * @param naming how a place is called; by what people call it, where nobody says
 */
export function faultInWords(
  { type, path, context = {} }: FaultFound,
  naming: (path: readonly (string | number)[], label?: string) => string = called,
): string {
  const label = context['label'];
  const what = naming(path, typeof label === 'string' ? label : undefined);
  const name = String(path.findLast((part) => typeof part === 'string') ?? '');
  const value = given(context['value']);
  const limit = String(context['limit'] ?? '');
  const sentence = (says: string): string => says.charAt(0).toUpperCase() + says.slice(1);
  const expected = EXPECTED[name];
  const peers = (key: string) => (Array.isArray(context[key]) ? (context[key] as unknown[]) : []);
  switch (type) {
    case 'any.required':
      return sentence(`${what} is missing.`);
    case 'string.base':
      return sentence(`${value} is no text, as was expected for ${what}.`);
    case 'string.pattern.name':
      return sentence(
        `${value} does not fit ${what}; ${expected ?? `expected ${String(context['name'] ?? '')}`}.`,
      );
    case 'any.custom':
      return sentence(
        `${what}: ${context['error'] instanceof Error ? context['error'].message : `${value} does not fit`}.`,
      );
    case 'any.only':
      return sentence(`${value} does not fit ${what}; expected ${listed(peers('valids'), 'or')}.`);
    case 'any.unknown':
    case 'object.unknown':
      return sentence(`${what} is nothing that is asked for here.`);
    case 'string.empty':
      return sentence(`${what} is empty.`);
    case 'string.min':
      return sentence(`${what} is too short: expected at least ${limit} characters.`);
    case 'string.max':
      return sentence(`${what} is too long: expected at most ${limit} characters.`);
    case 'string.isoDate':
      return sentence(`${value} is no time; expected such as 2026-11-24T09:30:00Z for ${what}.`);
    case 'string.uri':
    case 'string.uriCustomScheme':
      return sentence(`${value} is no web address; expected such as https://… for ${what}.`);
    case 'number.base':
    case 'number.integer':
    case 'number.infinity':
    case 'number.unsafe':
      return sentence(`${value} is no whole number; expected one for ${what}.`);
    case 'number.min':
      return sentence(`${what} is ${value}; expected ${limit} or more.`);
    case 'number.max':
      return sentence(`${what} is ${value}; expected ${limit} or less.`);
    case 'boolean.base':
      return sentence(`${value} is neither true nor false, as was expected for ${what}.`);
    case 'array.base':
      return sentence(`${what} is no list.`);
    case 'array.min':
      return sentence(`${what} is empty: expected at least ${limit}.`);
    case 'array.max':
      return sentence(`${what} is too long: expected at most ${limit}.`);
    case 'array.unique':
      return sentence(`${what} names ${value} twice.`);
    case 'object.base':
      return path.length === 0
        ? 'Keys with values were expected.'
        : sentence(`${what} has no keys with values.`);
    case 'object.min':
      return 'Nothing to change was given.';
    case 'object.missing':
      return `Give ${listed(peers('peers'), 'or')}.`;
    case 'object.xor':
    case 'object.oxor':
      return `Give only one of ${listed(peers('peers'), 'and')}.`;
    case 'object.with':
      return `“${String(context['main'] ?? '')}” goes only with “${String(context['peer'] ?? '')}”.`;
    default:
      return sentence(`${value} does not fit ${what}${expected === undefined ? '' : `; ${expected}`}.`);
  }
}
