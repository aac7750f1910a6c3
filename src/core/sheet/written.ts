import type { Block } from './blocks.js';

/** A sheet as Markdown (CommonMark): what is to be copied stands as it is, between fences that are longer than any in it. */
export function asMarkdown(blocks: readonly Block[]): string {
  return `${blocks.map(markdownOf).join('\n\n')}\n`;
}

function markdownOf(block: Block): string {
  switch (block.kind) {
    case 'title':
      return `# ${literal(block.text)}`;
    case 'heading':
      return `## ${literal(block.text)}`;
    case 'subheading':
      return `### ${literal(block.text)}`;
    case 'text':
      return literal(block.text);
    case 'faint':
      return `*${literal(block.text)}*`;
    case 'copy':
      return `**${literal(block.label)}**\n\n${fenced(block.lines)}`;
    case 'fields':
      return `**${literal(block.label)}**\n\n${block.fields.map(([name, value]) => `- ${literal(name)}: ${code(value)}`).join('\n')}`;
    case 'item':
      return `- ${block.struck ? '[x]' : '[ ]'} ${code(block.text)} — ${literal(block.label)}`;
  }
}

/** Letters that mean something in Markdown, as themselves. */
function literal(text: string): string {
  return text.replace(/[\\`*_{}[\]<>#|~]/gu, '\\$&');
}

function code(text: string): string {
  const longest = Math.max(0, ...[...text.matchAll(/`+/gu)].map(([ticks]) => ticks.length));
  const ticks = '`'.repeat(longest + 1);
  const pad = text.startsWith('`') || text.endsWith('`') ? ' ' : '';
  return `${ticks}${pad}${text.replaceAll('\n', ' ')}${pad}${ticks}`;
}

function fenced(lines: readonly string[]): string {
  const longest = Math.max(
    2,
    ...lines.flatMap((line) => [...line.matchAll(/`+/gu)].map(([ticks]) => ticks.length)),
  );
  const fence = '`'.repeat(longest + 1);
  return [fence, ...lines, fence].join('\n');
}

/** The widest line of a text mail (RFC 5322 §2.1.1); what is to be copied is never broken. */
const WIDTH = 76;

/** A sheet as plain text, for a mail. */
export function asText(blocks: readonly Block[]): string {
  return `${blocks.map(textOf).join('\n\n')}\n`;
}

function textOf(block: Block): string {
  switch (block.kind) {
    case 'title':
      return `${block.text}\n${'='.repeat([...block.text].length)}`;
    case 'heading':
      return `${block.text}\n${'-'.repeat([...block.text].length)}`;
    case 'subheading':
    case 'text':
    case 'faint':
      return wrapped(block.text);
    case 'copy':
      return `${wrapped(block.label)}:\n\n${block.lines.map((line) => `    ${line}`).join('\n')}`;
    case 'fields':
      return `${wrapped(block.label)}:\n\n${block.fields.map(([name, value]) => `  ${name}\n    ${value}`).join('\n')}`;
    case 'item':
      return `  [${block.struck ? 'x' : ' '}] ${block.label}\n      ${block.text}`;
  }
}

function wrapped(text: string): string {
  const lines: string[] = [];
  let line = '';
  for (const word of text.split(' ')) {
    if (line !== '' && line.length + 1 + word.length > WIDTH) {
      lines.push(line);
      line = word;
    } else line = line === '' ? word : `${line} ${word}`;
  }
  return [...lines, line].join('\n');
}

const STYLE = `
:root { color-scheme: light; }
* { box-sizing: border-box; }
body { margin: 0 auto; max-width: 46rem; padding: 1.5rem 1rem 3rem; background: #fffdf7; color: #1f2a37; font: 16px/1.5 system-ui, sans-serif; }
h1 { font-size: 1.6rem; line-height: 1.2; margin: 0 0 0.8rem; }
h2 { font-size: 1.2rem; margin: 2rem 0 0.5rem; border-top: 2px solid #1f2a37; padding-top: 0.6rem; }
h3 { font-size: 1rem; margin: 1.2rem 0 0.3rem; }
p { margin: 0.5rem 0; }
.faint { color: #545d68; font-size: 0.9rem; }
.label { font-weight: 600; margin: 1rem 0 0.25rem; }
pre, dd { margin: 0; padding: 0.5rem 0.6rem; border: 1px solid #d8ceb6; background: #faf6ec; font: 0.85rem/1.45 ui-monospace, monospace; white-space: pre-wrap; overflow-wrap: anywhere; }
dl { display: grid; grid-template-columns: minmax(7rem, auto) 1fr; gap: 0.3rem 0.8rem; margin: 0; }
dt { color: #545d68; font-size: 0.9rem; padding-top: 0.5rem; }
ul { list-style: none; margin: 0.6rem 0; padding: 0; }
li { padding: 0.3rem 0; border-top: 1px solid #d8ceb6; }
li code { font: 0.85rem ui-monospace, monospace; overflow-wrap: anywhere; }
@media (max-width: 30rem) { dl { grid-template-columns: 1fr; } dt { padding-top: 0.3rem; } }
@media print { body { max-width: none; padding: 0; font-size: 11pt; background: none; } pre, dd { background: none; } dl, pre, li { break-inside: avoid; } h2 { break-after: avoid; } }
@page { margin: 18mm 16mm; }
`;

/** A sheet as a page of its own, with nothing in it that is fetched: to be opened, sent on and printed on A4 or Letter. */
export function asHtml(blocks: readonly Block[], language: string): string {
  const [title] = blocks;
  const name = title?.kind === 'title' ? title.text : '';
  return `<!doctype html>
<html lang="${escaped(language)}">
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><meta name="robots" content="noindex"><title>${escaped(name)}</title><style>${STYLE}</style></head>
<body>
<main>
${blocks.map(htmlOf).join('\n')}
</main>
</body>
</html>
`;
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
    case 'faint':
      return `<p class="faint">${escaped(block.text)}</p>`;
    case 'copy':
      return `<p class="label">${escaped(block.label)}</p>\n<pre tabindex="0">${escaped(block.lines.join('\n'))}</pre>`;
    case 'fields':
      return `<p class="label">${escaped(block.label)}</p>\n<dl>${block.fields.map(([term, value]) => `<dt>${escaped(term)}</dt><dd>${escaped(value)}</dd>`).join('')}</dl>`;
    case 'item': {
      const text = `<code>${escaped(block.text)}</code>`;
      return `<ul><li>${block.struck ? '✓' : '–'} ${text} <span class="faint">${escaped(block.label)}</span></li></ul>`;
    }
  }
}

function escaped(text: string): string {
  return text.replace(/&/gu, '&amp;').replace(/</gu, '&lt;').replace(/>/gu, '&gt;').replace(/"/gu, '&quot;');
}
