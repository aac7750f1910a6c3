import { follows } from '../../badge/judge/reach.js';
import type { EngineProfile } from '../../profile/profile.js';

/** One rule for the server of a website, by which what stands elsewhere is had under its own address. */
export interface ServerRule {
  readonly server: string;
  /** `proxy` fetches it and hands it on, so that nobody sees where it stands; `redirect` sends engines there. */
  readonly how: 'proxy' | 'redirect';
  readonly text: string;
}

/** The rules, those first by which no engine leaves the website. Both addresses are ours, and hold nothing that a server would take for an order. */
export function ruleFor(from: string, to: string): ServerRule[] {
  const { pathname } = new URL(from);
  const folder = pathname.slice(0, pathname.lastIndexOf('/') + 1);
  const file = pathname.slice(folder.length);
  const target = new URL('.', to);
  const pattern = `${escapedPattern(folder)}(${escapedPattern(file)}|sitemap-[0-9a-f]+\\.xml(\\.gz)?|recent\\.(atom|rss))`;
  return [
    {
      server: 'nginx',
      how: 'proxy',
      text: `location ~ ^${pattern}$ {\n    proxy_pass ${target.origin}${target.pathname}$1;\n    proxy_set_header Host ${target.host};\n    proxy_ssl_server_name on;\n}`,
    },
    {
      server: 'Apache httpd',
      how: 'proxy',
      text: `RewriteEngine On\nSSLProxyEngine On\nRewriteRule ^/?${pattern.slice(1)}$ ${target.href}$1 [P,L]`,
    },
    {
      server: 'nginx',
      how: 'redirect',
      text: `location ~ ^${pattern}$ {\n    return 302 ${target.href}$1;\n}`,
    },
    {
      server: 'Apache httpd',
      how: 'redirect',
      text: `RewriteEngine On\nRewriteRule ^/?${pattern.slice(1)}$ ${target.href}$1 [R=302,L]`,
    },
    {
      server: 'any other',
      how: 'redirect',
      text: `${from} leads, by a redirect of the kind 302 (RFC 9110 §15.4.3), to ${to}; files beside it whose names begin with “sitemap-” likewise.`,
    },
  ];
}

function escapedPattern(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/gu, '\\$&');
}

/** Whether an engine would go along. */
export interface EngineVerdict {
  readonly engine: string;
  readonly title: string;
  readonly redirect: boolean;
  readonly says: string;
}

/**
 * What each engine makes of a redirect from the website's address to ours, by what its profile says of redirects (that of files,
 * where it says nothing of sitemaps). A proxy is seen by none.
 */
export function redirectVerdicts(profiles: readonly EngineProfile[], from: URL, to: URL): EngineVerdict[] {
  return profiles.map((profile) => {
    const rule = profile.methods.file?.redirects ?? profile.methods.meta?.redirects ?? 'none';
    const redirect = follows(rule, from, to);
    return {
      engine: profile.id,
      title: profile.title,
      redirect,
      says: redirect
        ? `${profile.title} follows the redirect; the robots.txt of ${from.host} has to name the sitemap at ${to.host}, since it lists another host’s addresses.`
        : `${profile.title} does not follow a redirect to ${to.host}: take a proxy rule.`,
    };
  });
}
