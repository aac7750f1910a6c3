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
    case 'link':
      return literal(block.text);
    case 'faint':
      return `*${literal(block.text)}*`;
    case 'copy':
      return `**${literal(block.label)}**\n\n${fenced(block.lines)}`;
    case 'fields':
      return `**${literal(block.label)}**\n\n${block.says === null ? '' : `${literal(block.says)}\n\n`}${block.fields.map(([name, value]) => `- ${literal(name)}: ${code(value)}`).join('\n')}`;
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
    case 'link':
    case 'faint':
      return wrapped(block.text);
    case 'copy':
      return `${wrapped(block.label)}:\n\n${block.lines.map((line) => `    ${line}`).join('\n')}`;
    case 'fields':
      return `${wrapped(block.label)}:\n\n${block.says === null ? '' : `${wrapped(block.says)}\n\n`}${block.fields.map(([name, value]) => `  ${name}\n    ${value}`).join('\n')}`;
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
