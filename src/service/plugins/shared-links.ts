import { createHash } from 'node:crypto';
import rateLimit from '@fastify/rate-limit';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { SHARED } from '../../api/routes.js';
import { writtenMinute } from '../../api/formats.js';
import { asHtml, STYLE } from '../../core/sheet/page.js';
import {
  gonePage,
  SHARED_ANSWERS,
  sharedPage,
  sharedSheet,
  type SharedAnswer,
  type SharedPage,
} from '../../core/sheet/shared-page.js';
import { asMarkdown, asText } from '../../core/sheet/sheet-formats.js';
import type { Changed, Desk } from '../../desk/context/desk.js';
import type { JobRunner } from '../../desk/jobs/runner.js';
import { SharedSheets, type OpenedLink } from '../../desk/shared-links/shared-sheets.js';
import type { LinkValues } from '../../desk/shared-links/links.js';
import { networkOf } from './network.js';
import { sendZip } from './sheets.js';

interface Named {
  Params: { secret: string };
  Querystring: { said?: string };
}

/** Requests of one address, or of the network that one person has (RFC 6177 §2: a /64 at least), in a minute. */
const MOST_A_MINUTE = 120;
/** What a form of ours sends: a word of a thousand letters. */
const MOST_BYTES = 16 * 1024;
/** Pages that listen at once: for one link, and for all. */
const MOST_LISTENING = 12;
const MOST_LISTENING_AT_ALL = 400;
const BEAT_MS = 25_000;
const GATHER_MS = 500;

const STYLE_SUM = createHash('sha256').update(STYLE).digest('base64');
/** The page has its looks in itself, and one script of ours. */
const POLICY = `default-src 'none'; style-src 'sha256-${STYLE_SUM}'; script-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'`;

/**
 * Sheets for whoever has their link, without signing in. Nothing else is to be seen by one; a link that does not work is answered the same
 * way, and as fast, whatever is the matter with it.
 */
export async function shared(app: FastifyInstance, desk: Desk, jobs: JobRunner): Promise<void> {
  const sheets = new SharedSheets(desk, jobs);
  const listening = new Map<string, number>();
  await app.register(async (scope) => {
    await scope.register(rateLimit, {
      max: MOST_A_MINUTE,
      timeWindow: '1 minute',
      keyGenerator: ({ ip }) => networkOf(ip),
    });
    // Nothing but a form of ours comes here.
    scope.removeAllContentTypeParsers();
    scope.addContentTypeParser(
      'application/x-www-form-urlencoded',
      { parseAs: 'string', bodyLimit: MOST_BYTES },
      (_request, body, parsed) => {
        parsed(null, new URLSearchParams(String(body)));
      },
    );
    scope.addHook('onRequest', (_request, reply, next) => {
      void reply
        .header('cache-control', 'no-store')
        .header('x-robots-tag', 'noindex, nofollow')
        .header('referrer-policy', 'no-referrer')
        .header('content-security-policy', POLICY);
      next();
    });
    // A link is a secret: the log has no request for one.
    const quiet = { logLevel: 'silent' } as const;

    scope.get<Named>(SHARED, quiet, async ({ params, query }, reply) => {
      const behind = await behindOf(params.secret);
      if (!behind) return gone(reply);
      await sheets.countOpened(behind.link);
      const answer = SHARED_ANSWERS.find((one) => one === query.said) ?? null;
      return reply.type('text/html; charset=utf-8').send(sharedPage(shownOf(behind, params.secret, answer)));
    });

    scope.get<Named>(`${SHARED}/sheet.zip`, quiet, async ({ params }, reply) => {
      const behind = await behindOf(params.secret);
      if (!behind || behind.gathered.sheet.places.length === 0) return gone(reply);
      const { blocks, files, at } = behind.gathered;
      const { language } = behind.link;
      return sendZip(reply, {
        ...{ files, at },
        html: asHtml(blocks, language),
        markdown: asMarkdown(blocks),
        text: asText(blocks),
      });
    });

    scope.post<Named>(`${SHARED}/look`, quiet, async ({ params }, reply) => {
      const behind = await behindOf(params.secret);
      if (!behind) return gone(reply);
      const looks = await sheets.look(behind);
      return back(reply, params.secret, looks ? null : 'wait', 'top');
    });

    scope.post<Named & { Body: URLSearchParams | undefined }>(
      `${SHARED}/word`,
      quiet,
      async ({ params, body }, reply) => {
        const behind = await behindOf(params.secret);
        if (!behind) return gone(reply);
        const says = body?.get('says')?.trim() ?? '';
        const kind = body?.get('kind') === 'done' ? 'done' : 'cannot';
        if (kind === 'cannot' && says === '') return back(reply, params.secret, 'why', 'word');
        const isSent = await sheets.send(behind.link, kind === 'done' ? { kind } : { kind, says });
        // Who says that it is done is glad to see it.
        if (isSent && kind === 'done') await sheets.look(behind);
        return back(reply, params.secret, isSent ? 'thanks' : 'enough', 'word');
      },
    );

    scope.get<Named>(`${SHARED}/events`, quiet, async (request, reply) => {
      const behind = await behindOf(request.params.secret);
      if (!behind) return gone(reply);
      const { link } = behind;
      const own = listening.get(link.id) ?? 0;
      const all = [...listening.values()].reduce((sum, one) => sum + one, 0);
      if (own >= MOST_LISTENING || all >= MOST_LISTENING_AT_ALL) return reply.status(204).send();
      listening.set(link.id, own + 1);
      listen(behind, request, reply, () => {
        const left = (listening.get(link.id) ?? 1) - 1;
        if (left === 0) listening.delete(link.id);
        else listening.set(link.id, left);
      });
      return reply;
    });
  });

  async function behindOf(secret: string): Promise<OpenedLink | null> {
    const link = await sheets.linkOf(secret);
    return link && sheets.open(link);
  }

  /** Tells an open page that what it shows has changed, until the link or the page is closed. */
  function listen(
    { link, subject }: OpenedLink,
    { params }: FastifyRequest<Named>,
    reply: FastifyReply,
    onClose: () => void,
  ): void {
    reply.hijack();
    const { raw } = reply;
    raw.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      'x-accel-buffering': 'no',
    });
    raw.write('retry: 5000\n\n');
    const own = new Set(subject.properties.map(({ id }) => id));
    let timer: NodeJS.Timeout | null = null;
    const tell = (): void => {
      timer ??= setTimeout(() => {
        timer = null;
        sheets.forget(link);
        // Whoever listens when it fails is told the next time.
        sheets.open(link).then(
          (behind) =>
            behind &&
            raw.write(
              `event: changed\ndata: ${JSON.stringify(sharedSheet(shownOf(behind, params.secret, null)))}\n\n`,
            ),
          () => null,
        );
      }, GATHER_MS);
    };
    const onChange = ({ properties }: Changed): void => {
      if (properties.some((id) => own.has(id))) tell();
    };
    const onLook = (id: string): void => {
      if (id === link.id) tell();
    };
    const goOn = (): void => {
      sheets.linkOf(params.secret).then(
        (still: LinkValues | null) => {
          raw.write(still ? ': beat\n\n' : 'event: over\ndata: \n\n');
          if (!still) raw.end();
        },
        () => raw.end(),
      );
    };
    const beat = setInterval(goOn, BEAT_MS);
    desk.events.on('change', onChange).on('shared', onLook).on('links', goOn);
    raw.on('close', () => {
      clearInterval(beat);
      if (timer) clearTimeout(timer);
      desk.events.off('change', onChange).off('shared', onLook).off('links', goOn);
      onClose();
    });
  }
}

function gone(reply: FastifyReply): FastifyReply {
  return reply.status(404).type('text/html; charset=utf-8').send(gonePage());
}

/** To the page by GET, so that loading it again does nothing twice (RFC 9110 §15.4.4). */
function back(reply: FastifyReply, secret: string, said: SharedAnswer | null, at: string): FastifyReply {
  return reply.redirect(`/shared/${secret}${said === null ? '' : `?said=${said}`}#${at}`, 303);
}

function inUtc(time: string): string {
  return `${writtenMinute(time)} UTC`;
}

function shownOf(
  { link, gathered, isLooking, lookedAt, mayAt }: OpenedLink,
  secret: string,
  answer: SharedAnswer | null,
): SharedPage {
  return {
    title: gathered.title,
    language: link.language,
    blocks: gathered.blocks,
    isEmpty: gathered.sheet.places.length === 0,
    isOpen: gathered.sheet.open + gathered.sheet.waiting > 0,
    isLooking,
    lookedAt: lookedAt === null ? null : inUtc(lookedAt),
    mayAt: mayAt === null ? null : inUtc(mayAt),
    until: inUtc(link.expiresAt),
    hasFiles: gathered.files.length > 0,
    answer,
    path: `/shared/${secret}`,
  };
}
