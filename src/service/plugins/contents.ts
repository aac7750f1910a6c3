import { Readable } from 'node:stream';
import { stringify } from 'csv-stringify/sync';
import type { FastifyInstance } from 'fastify';
import type { SitemapUrl } from '../../api/documents.js';
import type { ContentsQuery } from '../../api/contents/routes.js';
import type { PageQuery } from '../../api/route.js';
import { BASE, CONTENTS_CSV } from '../../api/routes.js';
import type { Desk } from '../../desk/context/desk.js';
import { allContents } from '../../desk/contents/contents.js';
import type { Callers } from '../../desk/people/callers.js';
import { requireRole } from './sign-in.js';
import { takenIn } from './request-bounds.js';

const HEAD = ['address', 'lastmod', 'file', 'line', 'findings', 'asked'];
/** What a stranger wrote is no formula in the one who opens it. */
const OPTIONS = { escape_formulas: true, record_delimiter: 'windows' } as const;

/** The addresses of a sitemap as a table (RFC 4180), sent as it is read. */
export function entries(app: FastifyInstance, callers: Callers, desk: Desk): void {
  app.get<{ Params: { sitemap: string } }>(
    BASE + CONTENTS_CSV,
    { onRequest: requireRole(callers, 'onlooker') },
    async (request, reply) => {
      const { query } = takenIn('listContents', request) as { query: ContentsQuery & PageQuery };
      const pages = allContents(desk, request.params.sitemap, query);
      // What is wrong is said before the first byte.
      const first = await pages.next();
      return reply
        .type('text/csv; charset=utf-8; header=present')
        .header('content-disposition', 'attachment; filename="sitemap-contents.csv"')
        .send(Readable.from(lines(first.done === true ? [] : first.value, pages)));
    },
  );
}

async function* lines(first: SitemapUrl[], rest: AsyncIterable<SitemapUrl[]>): AsyncGenerator<string> {
  yield stringify([HEAD], OPTIONS);
  if (first.length > 0) yield stringify(first.map(rowOf), OPTIONS);
  for await (const page of rest) if (page.length > 0) yield stringify(page.map(rowOf), OPTIONS);
}

function rowOf({ address, lastmod, file, line, findings, asked }: SitemapUrl): string[] {
  return [
    address,
    lastmod ?? '',
    file,
    String(line),
    findings.map(({ says }) => says).join('; '),
    asked.map(({ engine, listed }) => `${engine}: ${words(listed)}`).join('; '),
  ];
}

function words(listed: boolean | null): string {
  if (listed === null) return 'not said';
  return listed ? 'listed' : 'not listed';
}
