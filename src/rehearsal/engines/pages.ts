import type { EngineEnrolment } from '../state.js';
import { Refusal, type Registry } from './registry.js';

/** What a person can do on the pages of an engine that has no link. */
export type PageVisit =
  | { readonly ask: 'register'; readonly target: string }
  | { readonly ask: 'claim'; readonly target: string; readonly method: string }
  | { readonly ask: 'sitemap'; readonly target: string; readonly address: string }
  | { readonly ask: 'standing'; readonly target: string };

const ACCOUNT = 'agency';

function at(registry: Registry, target: string): EngineEnrolment {
  const found = registry.list(ACCOUNT).find((one) => one.target === target);
  if (!found) throw new Refusal(404, 'no-such-enrolment', `${target} is not registered here`);
  return found;
}

/** What the engine's page shows to the one who looks at it, as she would copy it. */
export async function visitPage(registry: Registry, visit: PageVisit): Promise<string> {
  const { title, meta, file, dns } = registry.rules;
  switch (visit.ask) {
    case 'register': {
      const enrolment = registry.enrol(ACCOUNT, { reach: 'address', target: visit.target });
      const token = (method: string) => registry.token(enrolment, method).value;
      return [
        `${title}: ${visit.target} is registered. Prove that it is yours by one of these:`,
        ...(meta ? [`<meta name="${meta.name}" content="${token('meta')}">`] : []),
        ...(file ? [`${file.path(token('file'))}  holding  ${file.content(token('file'))}`] : []),
        ...(dns ? [`${dns.owner(new URL(visit.target).hostname)}. IN TXT "${dns.value(token('dns'))}"`] : []),
      ].join('\n');
    }
    case 'claim': {
      const enrolment = at(registry, visit.target);
      const count = Object.keys(enrolment.claims).length;
      const { verdict, reason } = await registry.claim(enrolment, `page-${String(count + 1)}`, visit.method);
      return verdict === 'confirmed' ? `${title}: confirmed.` : `${title}: refused. ${reason}`;
    }
    case 'sitemap':
      return `${title}: noted ${registry.submit(at(registry, visit.target), visit.address).address}.`;
    case 'standing': {
      const { ownership, sitemaps } = at(registry, visit.target);
      const own =
        ownership.state === 'none' ? 'not confirmed' : `${ownership.state} since ${ownership.since ?? ''}`;
      const lines = sitemaps.map(({ address, readAt, found, listed, trouble }) =>
        readAt === null
          ? `${address}: ${trouble ?? 'not read yet'}`
          : `${address}: read ${readAt}, ${String(found)} found, ${String(listed)} listed`,
      );
      return [`${title}: ${visit.target} is ${own}.`, ...lines].join('\n');
    }
  }
}
