import { attribute, metaElementsIn } from '../../html/tree.js';
import { excerpt } from '../../findings/excerpt.js';
import type { Reach } from '../../address/reach.js';
import { methodsFor, type EngineProfile, type Method } from '../../profile/profile.js';
import { shapeFault } from './shape.js';

/** What was read out of something that a person copied from an engine's own pages. */
export type Pasted =
  | {
      readonly kind: 'read';
      readonly method: Method;
      readonly token: string;
      /** What was put right or is odd, in words. */
      readonly notes: readonly string[];
    }
  | { readonly kind: 'unread'; readonly says: string };

interface Found {
  readonly method: Method;
  readonly token: string;
  readonly notes: string[];
}

/**
 * Reads method and token out of pasted text: a whole tag, a bare value, a file's name, address or content, a TXT line
 * in any quoting.
 * @param method what the person said it is; needed only for a bare value that would fit several
 * @param others profiles whose tokens might have been copied by mistake
 */
export function readPasted(
  profile: EngineProfile,
  reach: Reach,
  text: string,
  method: Method | null = null,
  others: readonly EngineProfile[] = [],
): Pasted {
  const { plain, notes } = tidy(text);
  if (plain === '')
    return unread(`Nothing was pasted. Expected what ${profile.title} shows: ${expected(profile, reach)}.`);
  const offered = methodsFor(profile, reach).filter((one) => method === null || one === method);
  if (offered.length === 0)
    return unread(
      `${profile.title} takes no proof by ${String(method)} here; it takes ${methodsFor(profile, reach).join(', ')}.`,
    );
  const isTag = /<\s*meta\b/i.test(plain);
  const found = isTag ? fromTag(profile, plain) : fromText(profile, plain);
  if (typeof found === 'string') return unread(found + ownerOf(plain, isTag, others));
  const fitting = found.filter((one) => offered.includes(one.method));
  const tokens = [...new Set(fitting.map(({ token }) => token))];
  const [first] = fitting;
  if (!first) {
    const taken = found[0];
    const why = taken
      ? `That is ${profile.title}’s token by ${taken.method}, which it does not take here: ${offered.join(', ')}.`
      : `“${excerpt(plain, 80)}” is none of what ${profile.title} shows. Expected ${expected(profile, reach)}.`;
    return unread(why + (taken ? '' : ownerOf(plain, isTag, others)));
  }
  if (tokens.length === 1 && fitting.length > 1)
    return unread(
      `“${excerpt(first.token, 60)}” is a bare value, and ${profile.title} takes ${fitting.map((one) => one.method).join(' and ')}: say by which method it is.`,
    );
  const fault = shapeFault(profile, first.token);
  if (fault !== null) return unread(fault + ownerOf(plain, isTag, others));
  return { kind: 'read', method: first.method, token: first.token, notes: [...notes, ...first.notes] };
}

/** What was read out of a whole page: a token by each method that it shows. */
export type PastedPage =
  | { readonly kind: 'read'; readonly tokens: readonly Omit<Extract<Pasted, { kind: 'read' }>, 'kind'>[] }
  | Extract<Pasted, { kind: 'unread' }>;

/** More lines than these no page has that shows tokens. */
const MOST_LINES = 400;

/**
 * As `readPasted`, for whatever was copied together: where several lines show tokens by several methods, all of them are taken. Two tokens by
 * one method are none: nobody can say which is meant.
 */
export function readPastedPage(
  profile: EngineProfile,
  reach: Reach,
  text: string,
  method: Method | null = null,
  others: readonly EngineProfile[] = [],
): PastedPage {
  const lines = text.split(/\r\n|\r|\n/u).filter((line) => line.trim() !== '');
  const found = new Map<Method, Extract<Pasted, { kind: 'read' }>[]>();
  const all =
    method === null ? lines.slice(0, MOST_LINES).flatMap((line) => readLine(profile, reach, line)) : [];
  // A bare value is what many a word looks like: it counts only where nothing shows its form.
  const formed = all.filter(({ isBare }) => !isBare);
  for (const { read } of formed.length > 0 ? formed : all) {
    const known = found.get(read.method) ?? [];
    if (!known.some(({ token }) => token === read.token)) found.set(read.method, [...known, read]);
  }
  for (const [twice, all] of found)
    if (all.length > 1)
      return unread(
        `There are ${String(all.length)} tokens by ${twice} in it (${all.map(({ token }) => `“${excerpt(token, 40)}”`).join(', ')}): paste the one that is meant alone.`,
      );
  if (found.size > 1) return { kind: 'read', tokens: [...found.values()].flat() };
  const read = readPasted(profile, reach, text, method, others);
  if (read.kind === 'read') return { kind: 'read', tokens: [read] };
  return found.size === 1 ? { kind: 'read', tokens: [...found.values()].flat() } : read;
}

/**
 * The tokens in one line, one by each method: what the line is as a whole, and besides what its words are that have the form of a file
 * or a record by themselves.
 */
function readLine(
  profile: EngineProfile,
  reach: Reach,
  line: string,
): { readonly read: Extract<Pasted, { kind: 'read' }>; readonly isBare: boolean }[] {
  const found: { read: Extract<Pasted, { kind: 'read' }>; isBare: boolean }[] = [];
  for (const piece of [line, ...wordsThatShow(profile, line)]) {
    const read = readPasted(profile, reach, piece);
    if (read.kind !== 'read' || found.some((one) => one.read.method === read.method)) continue;
    const isBare = read.token === piece.trim();
    if (piece === line || !isBare) found.push({ read, isBare });
  }
  return found;
}

/** The words of a line that have the form of an engine's record or file by themselves, whatever is written around them. */
function wordsThatShow({ methods: { file, dns } }: EngineProfile, line: string): string[] {
  const fixed = [dns?.value, file?.path.slice(file.path.lastIndexOf('/') + 1)]
    .flatMap((template) => template?.split('{token}')[0] ?? [])
    .filter((start) => start.length > 2);
  return line
    .split(/[\s"'<>()[\],;]+/u)
    .map((word) => word.replace(/[.:]+$/u, ''))
    .filter((word) => fixed.some((start) => word.includes(start)));
}

function unread(says: string): Extract<Pasted, { kind: 'unread' }> {
  return { kind: 'unread', says };
}

/** Undoes what mail, word processors and web pages do to a copied line; tells what of it mattered. */
function tidy(text: string): { plain: string; notes: string[] } {
  const notes: string[] = [];
  const seen = (next: string, before: string, says: string): string => {
    if (next !== before) notes.push(says);
    return next;
  };
  const invisible = text.replace(/[\u00ad\u200b-\u200f\u2028-\u202e\u2060-\u2069\ufeff]/g, '');
  let plain = seen(invisible, text, 'Invisible characters were taken out.');
  plain = plain.replace(/\u00a0/g, ' ');
  plain = seen(
    plain.replace(/[“”„‟″]/g, '"').replace(/[‘’‚‛′]/g, "'"),
    plain,
    'Curly quotes were made straight.',
  );
  if (/&lt;\s*meta/i.test(plain))
    plain = seen(
      plain
        .replace(/&lt;/gi, '<')
        .replace(/&gt;/gi, '>')
        .replace(/&quot;|&#34;/gi, '"')
        .replace(/&amp;/gi, '&'),
      plain,
      'The tag was escaped; it was read as a tag.',
    );
  return { plain: plain.trim(), notes };
}

function fromTag(profile: EngineProfile, text: string): Found[] | string {
  const rule = profile.methods.meta;
  if (!rule) return `That is a meta tag, and ${profile.title} takes none.`;
  const tags = metaElements(text);
  const named = tags.find((tag) => tag.name?.toLowerCase() === rule.name.toLowerCase());
  if (!named) {
    const names = tags.flatMap(({ name }) => (name === null ? [] : [`“${excerpt(name, 60)}”`]));
    return `The tag is named ${names.join(', ') || 'nothing'}; ${profile.title}’s is named “${rule.name}”.`;
  }
  const token = unfill(rule.content, named.content.trim());
  if (token === null)
    return `The tag’s content “${excerpt(named.content, 80)}” is not of ${profile.title}’s form “${rule.content}”.`;
  return [
    {
      method: 'meta',
      token,
      notes: named.byProperty ? ['The tag said property= where name= is meant.'] : [],
    },
  ];
}

interface TagRead {
  readonly name: string | null;
  readonly content: string;
  readonly byProperty: boolean;
}

/** More tags than this nobody copies. */
const MOST_TAGS = 100;

function metaElements(text: string): TagRead[] {
  return metaElementsIn(text, MOST_TAGS).map((element) => {
    const own = attribute(element, 'name');
    const name = own ?? attribute(element, 'property');
    return { name, content: attribute(element, 'content') ?? '', byProperty: own === null && name !== null };
  });
}

function fromText(profile: EngineProfile, text: string): Found[] {
  const { meta, file, dns } = profile.methods;
  const found: Found[] = [];
  const record = dns && fromRecord(dns.value, text);
  if (record) found.push(record);
  if (file) {
    const name = file.path.slice(file.path.lastIndexOf('/') + 1);
    const last =
      text.split(/[\s"'()<>]+/).find((word) => word.includes(name.split('{token}')[0] || '\n')) ?? text;
    const path = last.replace(/[?#].*$/, '');
    const byName = name.includes('{token}') ? unfill(name, path.slice(path.lastIndexOf('/') + 1)) : null;
    const byContent = unfill(file.content, unquoted(text));
    if (byName !== null && name !== '{token}') found.push({ method: 'file', token: byName, notes: [] });
    else if (byContent !== null) found.push({ method: 'file', token: byContent, notes: [] });
  }
  const byContent = meta && unfill(meta.content, unquoted(text));
  if (byContent !== undefined && byContent !== null)
    found.push({ method: 'meta', token: byContent, notes: [] });
  return preferFilled(profile, found, unquoted(text));
}

/** A value that shows its form (`brindle-plank=…`) is of that method; only a bare one may be of several. */
function preferFilled(profile: EngineProfile, found: Found[], text: string): Found[] {
  const formed = found.filter(({ token }) => token !== text);
  if (formed.length > 0) return formed;
  return found.filter(({ method, token }) => method !== 'dns' || looksBare(profile, token));
}

function looksBare(profile: EngineProfile, token: string): boolean {
  return profile.methods.dns?.value === '{token}' && /^\S+$/.test(token);
}

/**
 * A TXT value out of a zone line (RFC 1035 §5.1), a panel's value, or what a look-up tool prints: quoted strings are
 * joined, `\\"` and `\\DDD` undone, a doubled pair of quotes taken off.
 */
function fromRecord(template: string, text: string): Found | null {
  const value = joinedStrings(text);
  const notes: string[] =
    value.joined > 1 ? [`The value was in ${String(value.joined)} quoted strings; they were joined.`] : [];
  const token = unfill(template, value.text);
  return token === null ? null : { method: 'dns', token, notes };
}

function joinedStrings(text: string): { text: string; joined: number } {
  const outer = text
    .replace(/^[\s\S]*?\bTXT\b[ \t(]*/i, '')
    .replace(/\)\s*$/, '')
    .trim();
  // A panel that quotes what was quoted already: "\"value\"".
  const line = /^"\\"[\s\S]*\\""$/.test(outer) ? outer.slice(1, -1).replace(/\\"/g, '"') : outer;
  const strings = [...line.matchAll(/"((?:[^"\\]|\\[\s\S])*)"/g)].map((match) => unescaped(match[1] ?? ''));
  if (strings.length > 0) return { text: strings.join('').trim(), joined: strings.length };
  return { text: unquoted(unescaped(line)), joined: 0 };
}

function unescaped(text: string): string {
  return text
    .replace(/\\(\d{3})/g, (_, code: string) => String.fromCharCode(Number(code)))
    .replace(/\\([\s\S])/g, '$1');
}

function unquoted(text: string): string {
  return /^(["'`])([\s\S]*)\1$/.exec(text.trim())?.[2]?.trim() ?? text.trim();
}

/** What stands for `{token}` in a filled form; null when the text is not of that form, or the value has gaps. */
function unfill(template: string, text: string): string | null {
  const [before = '', after = ''] = template.split('{token}');
  if (!text.startsWith(before) || !text.endsWith(after) || text.length <= before.length + after.length)
    return null;
  const token = text.slice(before.length, text.length - after.length);
  return /^[^\s<>"]+$/.test(token) ? token : null;
}

/** Whose token it is instead, if one of the other engines would know it. */
function ownerOf(text: string, isTag: boolean, others: readonly EngineProfile[]): string {
  const owner = others.find((other) => {
    const found = isTag ? fromTag(other, text) : fromText(other, text);
    return (
      typeof found !== 'string' &&
      found.some(({ token }) => token !== text && shapeFault(other, token) === null)
    );
  });
  return owner ? ` It looks like ${owner.title}’s token.` : '';
}

function expected(profile: EngineProfile, reach: Reach): string {
  const { meta, file, dns } = profile.methods;
  const offered = methodsFor(profile, reach);
  const forms = [
    ...(meta && offered.includes('meta') ? [`the tag <meta name="${meta.name}" …>`] : []),
    ...(file && offered.includes('file') ? [`the file ${file.path}`] : []),
    ...(dns && offered.includes('dns') ? [`the TXT value ${dns.value}`] : []),
  ];
  return forms.join(', ').replace(/\{token\}/g, '…');
}
