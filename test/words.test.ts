import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';
import { expect, it } from 'vitest';

const ROOT = fileURLToPath(new URL('..', import.meta.url));
/** Where what people read is written. */
const FOLDERS = ['src/console', 'src/cli', 'src/api', 'src/core', 'src/desk', 'src/engines'];

/** The words of the table that may not be used, with those to be used instead. */
function unwanted(): { readonly words: string; readonly instead: string }[] {
  const rows = readFileSync(join(ROOT, 'docs/words.md'), 'utf8')
    .split('\n')
    .filter((line) => line.startsWith('|'))
    .slice(2);
  return rows.flatMap((row) => {
    const [, , instead = '', not = ''] = row.split('|').map((cell) => cell.trim());
    return not.split(', ').map((words) => ({ words, instead }));
  });
}

/** What stands in the strings, templates and the text of a file, in lower case; comments and names are nobody's reading. */
function textsOf(file: string): string[] {
  const source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, false);
  const texts: string[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isStringLiteralLike(node) || ts.isTemplateLiteralToken(node) || ts.isJsxText(node))
      texts.push(node.text.replace(/\s+/gu, ' ').toLowerCase());
    ts.forEachChild(node, visit);
  };
  visit(source);
  return texts;
}

const files = FOLDERS.flatMap((folder) =>
  readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.tsx?$/u.test(name))
    .map((name) => join(folder, name)),
);

it('reads a table of words, and strings of pages and commands', () => {
  expect(unwanted().length).toBeGreaterThan(10);
  expect(files.flatMap((file) => textsOf(join(ROOT, file))).join('\n')).toContain('nothing is paused');
});

it('says one word for one thing, the one in the table', () => {
  const words = unwanted();
  const found = files.flatMap((file) =>
    textsOf(join(ROOT, file)).flatMap((text) =>
      words.flatMap(({ words: unwantedWords, instead }) =>
        text.includes(unwantedWords)
          ? [`${file}: “${text.slice(0, 80)}” has “${unwantedWords}”: say “${instead}”`]
          : [],
      ),
    ),
  );
  expect(found).toEqual([]);
});
