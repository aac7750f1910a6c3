import { escaped } from '../text/escaped.js';
import type { Block } from './blocks.js';
import { bodyOf, pageOf } from './page.js';
import { filled, type SheetLanguage } from './sentences.js';
import { SHARED_SENTENCES } from './shared-sentences.js';

/** What was answered to what somebody did on the page. */
export const SHARED_ANSWERS = ['wait', 'thanks', 'why', 'enough'] as const;
export type SharedAnswer = (typeof SHARED_ANSWERS)[number];

/** What the page behind a link shows. Times are written as they are to be read. */
export interface SharedPage {
  readonly title: string;
  readonly language: SheetLanguage;
  readonly blocks: readonly Block[];
  /** Whether anything is to be placed, or looked at. */
  readonly isEmpty: boolean;
  readonly isOpen: boolean;
  readonly isLooking: boolean;
  readonly lookedAt: string | null;
  readonly mayAt: string | null;
  readonly until: string;
  readonly hasFiles: boolean;
  readonly answer: SharedAnswer | null;
  /** The path of the page, without a slash at its end. */
  readonly path: string;
}

const ANSWERS = { wait: 'mayAt', thanks: 'thanks', why: 'needsWhy', enough: 'tooManyWords' } as const;

/** The page behind a shared link: the sheet, and what its reader may do. Works without scripts; with them it is live. */
export function sharedPage(shown: SharedPage): string {
  const { title, language, path } = shown;
  const words = SHARED_SENTENCES[language];
  return pageOf({
    title,
    language,
    head: `<meta name="robots" content="noindex, nofollow"><meta name="referrer" content="no-referrer"><script type="module" src="/shared.js"></script>`,
    body: `<div data-events="${escaped(path)}/events" data-copy="${escaped(words.copy)}" data-copied="${escaped(words.copied)}">
${sharedSheet(shown)}
</div>
${word(shown)}
<p class="faint">${escaped(filled(words.until, { at: shown.until }))}</p>`,
  });
}

/** The part of the page that is shown anew when something has changed: all but what its reader may be writing. */
export function sharedSheet(shown: SharedPage): string {
  const { title, language } = shown;
  const words = SHARED_SENTENCES[language];
  const [first] = shown.blocks.flatMap(({ kind }, at) => (kind === 'heading' ? [at] : []));
  const above = shown.isEmpty
    ? `<h1>${escaped(title)}</h1>\n<p>${escaped(words.nothing)}</p>`
    : bodyOf(shown.blocks.slice(0, first));
  const below = shown.isEmpty ? '' : bodyOf(shown.blocks.slice(first));
  return `${above}\n${seen(shown)}\n${below}\n${files(shown)}${look(shown)}`;
}

/** What is to be known of looks, before all else. */
function seen({ isLooking, lookedAt, mayAt, language, answer }: SharedPage): string {
  const words = SHARED_SENTENCES[language];
  const said = isLooking
    ? [words.looking]
    : [
        lookedAt === null ? '' : filled(words.lookedAt, { at: lookedAt }),
        mayAt !== null && answer === 'wait' ? filled(words.mayAt, { at: mayAt }) : '',
      ].filter((one) => one !== '');
  return `<p role="status"${said.length === 0 ? '' : ' class="note"'}>${said.map(escaped).join(' ')}</p>`;
}

function files({ hasFiles, path, language }: SharedPage): string {
  if (!hasFiles) return '';
  return `<p><a href="${escaped(path)}/sheet.zip">${escaped(SHARED_SENTENCES[language].zip)}</a></p>\n`;
}

function look({ isOpen, isLooking, mayAt, language, path }: SharedPage): string {
  if (!isOpen) return '';
  const words = SHARED_SENTENCES[language];
  const act = isLooking
    ? `<p>${escaped(words.looking)}</p>`
    : mayAt === null
      ? `<form method="post" action="${escaped(path)}/look"><button>${escaped(words.look)}</button></form>`
      : `<p>${escaped(filled(words.mayAt, { at: mayAt }))}</p>`;
  return `<section class="act" aria-labelledby="look"><h2 id="look">${escaped(words.lookTitle)}</h2><p>${escaped(words.lookHow)}</p>${act}</section>`;
}

function word({ language, path, answer }: SharedPage): string {
  const words = SHARED_SENTENCES[language];
  const said =
    answer === null || answer === 'wait'
      ? ''
      : `<p class="note" role="status">${escaped(words[ANSWERS[answer]])}</p>`;
  return `<section class="act" id="word" aria-labelledby="word-title"><h2 id="word-title">${escaped(words.wordTitle)}</h2><p>${escaped(words.wordHow)}</p>${said}<form method="post" action="${escaped(path)}/word"><fieldset><label><input type="radio" name="kind" value="done" checked> ${escaped(words.done)}</label><label><input type="radio" name="kind" value="cannot"> ${escaped(words.cannot)}</label><label>${escaped(words.because)}<textarea name="says" rows="3" maxlength="1000"></textarea></label></fieldset><button>${escaped(words.send)}</button></form></section>`;
}

const GONE: Readonly<Record<SheetLanguage, readonly [string, string]>> = {
  en: [
    'This link does not work',
    'It may have expired, or its address may not be whole. Please ask whoever sent it to you for another one.',
  ],
  de: [
    'Dieser Link funktioniert nicht',
    'Vielleicht ist er abgelaufen, oder die Adresse ist nicht vollständig. Bitte bei den Absendern einen neuen anfordern.',
  ],
};

/** The same for every link that does not work, whatever is the matter with it. */
export function gonePage(): string {
  const body = Object.entries(GONE)
    .map(
      ([language, [title, says]], at) =>
        `<div lang="${language}"><${at === 0 ? 'h1' : 'h2'}>${escaped(title)}</${at === 0 ? 'h1' : 'h2'}><p>${escaped(says)}</p></div>`,
    )
    .join('\n');
  return pageOf({
    title: GONE.en[0],
    language: 'en',
    body,
    head: '<meta name="robots" content="noindex, nofollow">',
  });
}
