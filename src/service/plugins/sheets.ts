import type { FastifyInstance, FastifyReply } from 'fastify';
import { strToU8, zipSync, type Zippable } from 'fflate';
import type { PlacementSheet } from '../../api/documents.js';
import { BASE, SHEET_ZIP } from '../../api/routes.js';
import type { SheetLanguage } from '../../core/sheet/sentences.js';
import type { Desk } from '../../desk/context/desk.js';
import type { Callers } from '../../desk/people/callers.js';
import { showSheet } from '../../desk/sheet/sheet.js';
import type { SheetFor } from '../../desk/sheet/subject.js';
import { requireRole } from './sign-in.js';
import { takenIn } from './request-bounds.js';

/** Sheets with their files, packed: what is to be uploaded lies below “upload”, in the folders where it belongs. */
export function sheets(app: FastifyInstance, callers: Callers, desk: Desk): void {
  app.get(BASE + SHEET_ZIP, { onRequest: requireRole(callers, 'onlooker') }, async (request, reply) => {
    const { query } = takenIn('showSheet', request) as { query: SheetFor & { language?: SheetLanguage } };
    const sheet = await showSheet(desk, query, query.language);
    return sendZip(reply, sheet);
  });
}

type Packed = Pick<PlacementSheet, 'html' | 'markdown' | 'text' | 'files' | 'at'>;

/** Answers with a sheet and its files, packed. */
export function sendZip(reply: FastifyReply, sheet: Packed): FastifyReply {
  return reply
    .type('application/zip')
    .header('content-disposition', 'attachment; filename="placement-sheet.zip"')
    .send(Buffer.from(packed(sheet)));
}

function packed({ html, markdown, text, files, at }: Packed): Uint8Array {
  const all: Zippable = {
    'sheet.html': strToU8(html),
    'sheet.md': strToU8(markdown),
    'sheet.txt': strToU8(text),
    ...Object.fromEntries(files.map(({ path, content }) => [`upload/${path}`, strToU8(content)])),
  };
  return zipSync(all, { mtime: at, level: 6 });
}
