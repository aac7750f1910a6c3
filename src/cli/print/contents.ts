import type { SitemapContents, SitemapOutline } from '../../api/documents.js';
import { table } from './table.js';
import { paint, say, when } from './text.js';

function sayState({ at, entries, files, cut }: SitemapContents['contents']): void {
  const many = entries.toLocaleString('en');
  say(
    paint.dim(
      `${many} addresses in ${String(files)} ${files === 1 ? 'file' : 'files'}, as they stood ${when(at)}${cut ? '; there are more than are kept' : ''}. --again fetches them anew.`,
    ),
  );
}

/** A page of the addresses of a sitemap. */
export function printContents({ contents, count, items }: SitemapContents): void {
  sayState(contents);
  const hasFiles = contents.files > 1;
  const hasAsked = items.some(({ asked }) => asked.length > 0);
  const hasFindings = items.some(({ findings }) => findings.length > 0);
  table(
    [
      'changed',
      ...(hasFiles ? ['file'] : []),
      ...(hasFindings ? ['found'] : []),
      ...(hasAsked ? ['engines say'] : []),
      'address',
    ],
    items.map((one) => [
      one.lastmod ?? '–',
      ...(hasFiles ? [`${new URL(one.file).pathname}:${String(one.line)}`] : []),
      ...(hasFindings ? [one.findings.map(({ says }) => says).join(', ')] : []),
      ...(hasAsked
        ? [
            one.asked
              .map(
                ({ engine, listed }) => `${engine} ${listed === true ? '✓' : listed === false ? '✗' : '?'}`,
              )
              .join(' '),
          ]
        : []),
      one.address,
    ]),
    'Nothing matches.',
  );
  if (count > items.length)
    say(paint.dim(`${items.length.toLocaleString('en')} of ${count.toLocaleString('en')} shown.`));
}

/** A folder, and how deep it is shown. */
export interface FolderLine {
  readonly folder: SitemapOutline['folders'][number];
  readonly level: number;
}

/** The folders of a sitemap with their counts, and what was found of its addresses. */
export function printOutline(
  { contents, more, findings, dated, newest, oldest }: SitemapOutline,
  tree: readonly FolderLine[],
): void {
  sayState(contents);
  table(
    ['in it', 'and below', 'folder'],
    tree.map(({ folder: { folder, own, total, hasBelow }, level }, at) => [
      own.toLocaleString('en'),
      total.toLocaleString('en'),
      `${'· '.repeat(level)}${folder === '' ? '(no whole address)' : folder}${hasBelow && (tree[at + 1]?.level ?? 0) <= level ? ' …' : ''}`,
    ]),
    'There are no folders below it.',
  );
  if (more) say(paint.dim('There are more; --folder shows those below one.'));
  say(
    dated === 0
      ? 'None says when it changed.'
      : `${dated.toLocaleString('en')} say when they changed: from ${when(oldest)} to ${when(newest)}.`,
  );
  for (const { code, says, count } of findings)
    say(`${paint.magenta('!')} ${count.toLocaleString('en')} ${says}  ${paint.dim(code)}`);
}
