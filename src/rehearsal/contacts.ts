import type { MailGot } from './post.js';
import type { SiteState, WorldState } from './state.js';

/** How somebody of a client's goes about what a letter asks: all of it, the first thing alone, a record pasted whole, or not at all. */
export const CONTACT_WAYS = ['all', 'half', 'whole-line', 'never'] as const;
export type ContactWay = (typeof CONTACT_WAYS)[number];

type Act =
  | { readonly what: 'tag'; readonly host: string; readonly tag: string }
  | { readonly what: 'file'; readonly host: string; readonly path: string; readonly content: string }
  | { readonly what: 'record'; readonly name: string; readonly value: string; readonly line: string };

/** What a letter asks for, read as its reader reads it: place by place, the values as they stand there. */
function askedIn({ text }: Pick<MailGot, 'text'>): Act[] {
  const acts: Act[] = [];
  let host = '';
  let path = '';
  const lines = text.split(/\r?\n/u);
  for (const [at, line] of lines.entries()) {
    const heading = /^-{4,}$/u.test(lines[at + 1] ?? '') ? line : '';
    if (heading !== '') host = hostIn(heading);
    const tag = /^\s+(<meta .*>)$/u.exec(line)?.[1];
    if (tag !== undefined) acts.push({ what: 'tag', host, tag });
    const record = /^\s+((\S+)\. \d+ IN TXT "(.*)")$/u.exec(line);
    if (record) {
      const [, whole = '', name = '', strings = ''] = record;
      const value = strings.replaceAll('" "', '').replace(/\\(.)/gu, '$1');
      acts.push({ what: 'record', name, value, line: whole });
    }
    const label = (lines[at - 1] ?? '').trim();
    if (/^(?:Path from the web root|Pfad ab dem Hauptverzeichnis)$/u.test(label)) path = line.trim();
    if (/^(?:What is in it|Inhalt)$/u.test(label))
      acts.push({ what: 'file', host, path, content: line.trim() });
  }
  return acts;
}

/** The host at the end of a heading: of a page, or as it is. */
function hostIn(heading: string): string {
  const last = heading.split(' ').at(-1) ?? '';
  return URL.canParse(last) ? new URL(last).hostname : last;
}

/**
 * Has whoever gets mail at an address do what the newest one asks, in a way of their own.
 * @returns what they did, in words
 * @throws Error where they got none
 */
export function doAsAsked(
  mails: readonly MailGot[],
  who: string,
  way: ContactWay,
  world: Pick<WorldState, 'txt'>,
  site: (host: string) => SiteState,
): string {
  const mail = mails.findLast(({ to }) => to === who);
  if (!mail) throw new Error(`${who} got no mail.`);
  const asked = askedIn(mail);
  const done = way === 'never' ? [] : way === 'half' ? asked.slice(0, 1) : asked;
  for (const act of done)
    if (act.what === 'tag') site(act.host).head.push(act.tag);
    else if (act.what === 'file')
      site(act.host).files[act.path] = { content: act.content, type: 'text/plain' };
    else world.txt.push({ name: act.name, value: way === 'whole-line' ? act.line : act.value });
  return `${who} read “${mail.subject}” and did ${String(done.length)} of ${String(asked.length)} things${way === 'whole-line' ? ', with whole lines for values' : ''}.`;
}
