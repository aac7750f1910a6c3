import type { FastifyInstance } from 'fastify';
import { escaped } from '../../core/text/escaped.js';
import type { Desk } from '../../desk/context/desk.js';
import { stopReport, stoppedBy } from '../../desk/reports/orders.js';

const PATH = '/stop/:token';
/** What a mail program sends is a few words (RFC 8058 §3.2). */
const MOST_BYTES = 4 * 1024;
const FORMS = ['application/x-www-form-urlencoded', 'multipart/form-data'];

/**
 * Where whoever is sent a report says that no more of it is wanted, without signing in: a program by one POST (RFC 8058), a person by a
 * page with one button. Looking at the page ends nothing, since programs look at links too. Whatever is asked for, the answer tells no
 * stranger whether there is such a report.
 */
export async function stops(app: FastifyInstance, desk: Desk): Promise<void> {
  await app.register((scope, _, done) => {
    scope.addContentTypeParser(
      FORMS,
      { parseAs: 'string', bodyLimit: MOST_BYTES },
      (_request, body, parsed) => {
        parsed(null, body);
      },
    );
    scope.addHook('onRequest', (_request, reply, next) => {
      void reply
        .header('cache-control', 'no-store')
        .header('x-robots-tag', 'noindex, nofollow')
        .header('referrer-policy', 'no-referrer');
      next();
    });
    scope.get<{ Params: { token: string } }>(PATH, async ({ params }, reply) => {
      const stopped = await stoppedBy(desk, params.token);
      return reply
        .type('text/html')
        .send(
          stopped
            ? page(
                'No more of these reports?',
                `<p>You are sent ${escaped(stopped.says)}.</p><form method="post"><button type="submit">Send me no more of it</button></form>`,
              )
            : page('No more of these reports', '<p>Nothing is sent by this link any more.</p>'),
        );
    });
    scope.post<{ Params: { token: string } }>(PATH, async ({ params }, reply) => {
      await stopReport(desk, params.token);
      return reply
        .type('text/html')
        .send(page('No more of these reports', '<p>Nothing is sent by this link any more.</p>'));
    });
    done();
  });
}

function page(title: string, body: string): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escaped(title)}</title></head><body><main><h1>${escaped(title)}</h1>${body}</main></body></html>`;
}
