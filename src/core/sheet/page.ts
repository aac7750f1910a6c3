import { escaped } from '../text/escaped.js';
import type { Block } from './blocks.js';

/** The looks of a page that stands alone: on a screen, a phone, and on paper. */
export const STYLE = `
:root { color-scheme: light; }
* { box-sizing: border-box; }
body { margin: 0 auto; max-width: 46rem; padding: 1.5rem 1rem 3rem; background: #fffdf7; color: #1f2a37; font: 16px/1.5 system-ui, sans-serif; }
h1 { font-size: 1.6rem; line-height: 1.2; margin: 0 0 0.8rem; }
h2 { font-size: 1.2rem; margin: 2rem 0 0.5rem; border-top: 2px solid #1f2a37; padding-top: 0.6rem; }
h3 { font-size: 1rem; margin: 1.2rem 0 0.3rem; }
p { margin: 0.5rem 0; }
p, h1, h2, h3 { overflow-wrap: anywhere; }
a { color: #0b4f6c; }
.faint { color: #545d68; font-size: 0.9rem; }
.label { font-weight: 600; margin: 1rem 0 0.25rem; }
pre + button.copy { margin-top: 0.3rem; }
pre, dd { margin: 0; padding: 0.5rem 0.6rem; border: 1px solid #d8ceb6; background: #faf6ec; font: 0.85rem/1.45 ui-monospace, monospace; white-space: pre-wrap; overflow-wrap: anywhere; }
dd { display: flex; justify-content: space-between; align-items: start; gap: 0.6rem; }
dl { display: grid; grid-template-columns: minmax(7rem, auto) 1fr; gap: 0.3rem 0.8rem; margin: 0; }
dt { color: #545d68; font-size: 0.9rem; padding-top: 0.5rem; }
ul { list-style: none; margin: 0.6rem 0; padding: 0; }
li { padding: 0.3rem 0; border-top: 1px solid #d8ceb6; }
li code { font: 0.85rem ui-monospace, monospace; overflow-wrap: anywhere; }
.act { margin: 2rem 0 0; padding: 0.8rem 1rem 1rem; border: 1px solid #d8ceb6; background: #faf6ec; }
.act h2 { margin: 0 0 0.3rem; border: 0; padding: 0; }
.act fieldset { border: 0; margin: 0; padding: 0; }
.act label { display: block; margin: 0.3rem 0; }
.act textarea { display: block; width: 100%; margin-top: 0.2rem; border: 1px solid #545d68; padding: 0.4rem; background: #fffdf7; font: inherit; }
button, .button { display: inline-block; margin: 0.4rem 0.6rem 0 0; border: 1px solid #0b4f6c; border-radius: 2px; background: #0b4f6c; color: #fffdf7; font: inherit; padding: 0.35rem 0.9rem; cursor: pointer; }
button.copy { flex: none; margin: 0; padding: 0 0.6rem; background: none; color: #0b4f6c; font-size: 0.85rem; }
.note { border-left: 4px solid #0b4f6c; padding: 0.3rem 0.8rem; background: #faf6ec; }
:focus-visible { outline: 2px solid #b4560f; outline-offset: 2px; }
@media (max-width: 30rem) { dl { grid-template-columns: 1fr; } dt { padding-top: 0.3rem; } }
@media print { .act, button { display: none; } body { max-width: none; padding: 0; font-size: 11pt; background: none; } pre, dd { background: none; } dl, pre, li { break-inside: avoid; } h2 { break-after: avoid; } }
@page { margin: 18mm 16mm; }
`;

/** A page of its own, with nothing in it that is fetched: to be opened, sent on and printed on A4 or Letter. */
export function asHtml(blocks: readonly Block[], language: string): string {
  const [title] = blocks;
  return pageOf({
    title: title?.kind === 'title' ? title.text : '',
    language,
    body: bodyOf(blocks),
    head: '<meta name="robots" content="noindex">',
  });
}

export interface PageParts {
  readonly title: string;
  readonly language: string;
  /** HTML, and more of it for the head. */
  readonly body: string;
  readonly head?: string;
}

/** A whole page of HTML in our looks. */
export function pageOf({ title, language, body, head = '' }: PageParts): string {
  return `<!doctype html>
<html lang="${escaped(language)}">
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">${head}<title>${escaped(title)}</title><style>${STYLE}</style></head>
<body>
<main>
${body}
</main>
</body>
</html>
`;
}

/** Blocks as HTML. */
export function bodyOf(blocks: readonly Block[]): string {
  return blocks.map(htmlOf).join('\n');
}

function htmlOf(block: Block): string {
  switch (block.kind) {
    case 'title':
      return `<h1>${escaped(block.text)}</h1>`;
    case 'heading':
      return `<h2>${escaped(block.text)}</h2>`;
    case 'subheading':
      return `<h3>${escaped(block.text)}</h3>`;
    case 'text':
      return `<p>${escaped(block.text)}</p>`;
    case 'link': {
      const url = escaped(block.url);
      const link = `<a href="${url}">${url}</a>`;
      return `<p>${escaped(block.text).replace(url, () => link)}</p>`;
    }
    case 'faint':
      return `<p class="faint">${escaped(block.text)}</p>`;
    case 'copy':
      return `<p class="label">${escaped(block.label)}</p>\n<pre tabindex="0">${escaped(block.lines.join('\n'))}</pre>`;
    case 'fields':
      return `<p class="label">${escaped(block.label)}</p>\n${block.says === null ? '' : `<p>${escaped(block.says)}</p>\n`}<dl>${block.fields.map(([term, value]) => `<dt>${escaped(term)}</dt><dd>${escaped(value)}</dd>`).join('')}</dl>`;
    case 'item': {
      const text = `<code>${escaped(block.text)}</code>`;
      return `<ul><li>${block.struck ? '✓' : '–'} ${text} <span class="faint">${escaped(block.label)}</span></li></ul>`;
    }
  }
}
