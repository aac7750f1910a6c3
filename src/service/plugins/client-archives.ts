import type { FastifyInstance } from 'fastify';
import { strToU8, zipSync } from 'fflate';
import { BASE, CLIENT_ARCHIVE } from '../../api/routes.js';
import type { Desk } from '../../desk/context/desk.js';
import { archiveFiles } from '../../desk/handover/archive-files.js';
import type { Callers } from '../../desk/people/callers.js';
import { requireRole } from './sign-in.js';

/** A client’s own part of the records, packed: it opens without the product. */
export function clientArchives(app: FastifyInstance, callers: Callers, desk: Desk): void {
  app.get<{ Params: { client: string } }>(
    BASE + CLIENT_ARCHIVE,
    { onRequest: requireRole(callers, 'consultant') },
    async ({ params }, reply) => {
      const { handle, at, files } = await archiveFiles(desk, params.client);
      const packed = zipSync(
        Object.fromEntries([...files].map(([name, text]) => [`${handle}/${name}`, strToU8(text)])),
        { mtime: at, level: 6 },
      );
      return reply
        .type('application/zip')
        .header('content-disposition', `attachment; filename="${handle}.zip"`)
        .send(Buffer.from(packed));
    },
  );
}
