import { blocksOf, type Block, type SheetAbout } from '../sheet/blocks.js';
import { asHtml } from '../sheet/page.js';
import { filled, type SheetLanguage, type SheetSentences } from '../sheet/sentences.js';
import type { Sheet } from '../sheet/sheet.js';
import { asText } from '../sheet/sheet-formats.js';

/** Every sentence of a letter that is not its sheet's. */
export interface LetterSentences {
  readonly subjectOne: string;
  readonly subjectMany: string;
  readonly subjectOther: string;
  readonly again: string;
  readonly hello: string;
  readonly before: string;
  readonly intro: string;
  readonly link: string;
  readonly also: string;
  /** What else is to be mended: each has what is to be done in detail, as it was found. */
  readonly mendAway: string;
  readonly mendReach: string;
  readonly mendCertificate: string;
  readonly mendSitemap: string;
  readonly mendFallen: string;
  readonly mendName: string;
  readonly mendOther: string;
  readonly reply: string;
  readonly thanks: string;
}

const ENGLISH: LetterSentences = {
  subjectOne: '{property}: one thing to place, please',
  subjectMany: '{property}: {open} things to place, please',
  subjectOther: '{property}: something to mend, please',
  again: 'Once more: {subject}',
  hello: 'Hello {name},',
  before: 'we wrote about this on {date}, and it does not stand yet.',
  intro:
    'could you please place the following for {property}? Search engines look for it there, to know that we may ask them on your behalf. Nobody who visits the website sees it.',
  link: 'The same as a page, with buttons to copy, and one to have it looked at when it is done: {link}',
  also: 'Also seen',
  mendAway: '{site}: {detail}',
  mendReach: '{site}: {detail}',
  mendCertificate: '{site}: {detail}',
  mendSitemap: '{site}: {detail}',
  mendFallen: '{site}: {detail}',
  mendName: '{site}: {detail}',
  mendOther: '{site}: {detail}',
  reply: 'Should anything be in the way of it, a line in reply is enough.',
  thanks: 'Thank you, and kind regards,\n{person}',
};

const GERMAN: LetterSentences = {
  subjectOne: '{property}: bitte etwas hinterlegen',
  subjectMany: '{property}: bitte {open} Dinge hinterlegen',
  subjectOther: '{property}: bitte etwas in Ordnung bringen',
  again: 'Noch einmal: {subject}',
  hello: 'Guten Tag {name},',
  before: 'wir haben am {date} schon dazu geschrieben, und es steht noch nicht.',
  intro:
    'bitte hinterlegen Sie Folgendes für {property}. Suchmaschinen sehen dort nach, ob wir in Ihrem Namen fragen dürfen. Besucher der Website sehen davon nichts.',
  link: 'Dasselbe als Seite, mit Knöpfen zum Kopieren und einem zum Nachsehenlassen, wenn es erledigt ist: {link}',
  also: 'Außerdem gesehen (Einzelheiten auf Englisch)',
  mendAway:
    '{site} bittet Suchmaschinen, fernzubleiben. Wenn das nicht so gewollt ist, nehmen Sie es bitte weg. Im Einzelnen: {detail}',
  mendReach: '{site} ist für uns und vielleicht auch für andere nicht zu erreichen. Im Einzelnen: {detail}',
  mendCertificate: 'Das Zertifikat von {site} muss erneuert werden. Im Einzelnen: {detail}',
  mendSitemap: 'Die Sitemap von {site} ist nicht zu lesen. Im Einzelnen: {detail}',
  mendFallen:
    'Die Sitemap von {site} nennt viel weniger Seiten als zuvor. Bitte sehen Sie nach, ob das so gewollt ist. Im Einzelnen: {detail}',
  mendName: 'Der Name {site} läuft bald ab; bitte verlängern Sie ihn rechtzeitig. Im Einzelnen: {detail}',
  mendOther: 'Bei {site} ist etwas in Ordnung zu bringen. Im Einzelnen: {detail}',
  reply: 'Sollte etwas dagegenstehen, genügt eine Zeile als Antwort.',
  thanks: 'Vielen Dank und freundliche Grüße\n{person}',
};

export const LETTER_SENTENCES: Readonly<Record<SheetLanguage, LetterSentences>> = { en: ENGLISH, de: GERMAN };

/** What somebody of the client's mends, other than by placing what a sheet has. */
export interface Mend {
  readonly what: MendKind;
  readonly site: string;
  /** What is to be done, as it was found. */
  readonly detail: string;
}
export type MendKind = Extract<keyof LetterSentences, `mend${string}`>;

export interface LetterParts {
  readonly words: LetterSentences;
  readonly sheetWords: SheetSentences;
  readonly language: SheetLanguage;
  /** Whom it is to, and who writes it. */
  readonly name: string;
  readonly person: string;
  /** For whom they write; null where nobody has said what the agency is called. */
  readonly agency: string | null;
  /** What of a sheet goes to this contact. */
  readonly sheet: Sheet;
  readonly about: SheetAbout;
  /** What else is to be mended, and where. */
  readonly mends: readonly Mend[];
  /** The address of a shared link; null where there is none. */
  readonly link: string | null;
  /** When they were written to about the same before; null where they were not. */
  readonly before: string | null;
}

export interface Letter {
  readonly subject: string;
  readonly text: string;
  readonly html: string;
}

/** One letter to one contact, whatever the number of findings: the subject first, then what is to be done, in order by place. */
export function letterOf(parts: LetterParts): Letter {
  const { language, words, about, sheet, link, before, mends, agency } = parts;
  const { property } = about;
  const { open } = sheet;
  const first = filled(open === 0 ? words.subjectOther : open === 1 ? words.subjectOne : words.subjectMany, {
    property,
    open,
  });
  const subject = before === null ? first : filled(words.again, { subject: first });
  const text = (sentence: string): Block => ({ kind: 'text', text: sentence });
  const blocks: Block[] = [
    text(filled(words.hello, { name: parts.name })),
    ...(before === null ? [] : [text(filled(words.before, { date: before }))]),
    ...(open === 0 ? [] : [text(filled(words.intro, { property }))]),
    ...(link === null ? [] : [{ kind: 'link', text: filled(words.link, { link }), url: link } as const]),
    ...(open === 0 ? [] : tasks(sheet, parts.sheetWords, about)),
    ...(mends.length === 0 || open === 0 ? [] : [{ kind: 'heading', text: words.also } as const]),
    ...mends.map(({ what, site, detail }) => text(filled(words[what], { site, detail }))),
    text(words.reply),
    ...filled(words.thanks, { person: parts.person }).split('\n').map(text),
    // Words of their own may have it already.
    ...(agency === null || words.thanks.includes(agency) ? [] : [text(agency)]),
  ];
  const titled: Block[] = [{ kind: 'title', text: subject }, ...blocks];
  return { subject, text: asText(blocks), html: asHtml(titled, language) };
}

/** Of a sheet what is said of its places: a letter has its own beginning and end. */
function tasks(sheet: Sheet, words: SheetSentences, about: SheetAbout): Block[] {
  const blocks = blocksOf({ ...sheet, others: [] }, words, about);
  const first = blocks.findIndex(({ kind }) => kind === 'heading');
  return blocks.slice(first, -1);
}
