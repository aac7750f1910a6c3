import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { userInfo } from 'node:os';
import type { Programs } from './programs.js';

/** A folder of pages that a web server hands out at a host of its own. */
export interface PageFolder {
  readonly host: string;
  readonly folder: string;
}

/** nginx, as its package sets it up: pages by their ending, folders by their index. */
export function serveByNginx(
  programs: Programs,
  home: string,
  port: number,
  sites: readonly PageFolder[],
): void {
  mkdirSync(home, { recursive: true });
  const temporary = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi']
    .map((name) => `${name}_temp_path ${home}/${name};`)
    .join(' ');
  const servers = sites.map(
    ({ host, folder }) =>
      `server { listen 127.0.0.1:${String(port)}; server_name ${host}; root ${folder}; index index.html; }`,
  );
  const config = join(home, 'nginx.conf');
  writeFileSync(
    config,
    `daemon off; user ${userInfo().username}; pid ${home}/nginx.pid; error_log ${home}/error.log; events {}
http { access_log off; ${temporary} absolute_redirect off; types { text/html html htm; text/css css; text/plain txt; application/pdf pdf; image/png png; image/svg+xml svg; application/javascript js; application/atom+xml atom; }
${servers.join('\n')} }`,
  );
  programs.start('nginx', '-e', join(home, 'error.log'), '-c', config);
}

/** Apache, with pages in several languages negotiated (RFC 9110 §12) where a folder has them. */
export function serveByApache(
  programs: Programs,
  home: string,
  port: number,
  sites: readonly PageFolder[],
): void {
  mkdirSync(home, { recursive: true });
  const modules = ['mpm_event', 'authz_core', 'dir', 'mime', 'negotiation', 'alias']
    .map((name) => `LoadModule ${name}_module /usr/lib/apache2/modules/mod_${name}.so`)
    .join('\n');
  const hosts = sites.map(
    ({ host, folder }) =>
      `<VirtualHost *:${String(port)}>\nServerName ${host}\nDocumentRoot ${folder}\n</VirtualHost>\n<Directory ${folder}>\nOptions FollowSymLinks MultiViews\nRequire all granted\n</Directory>`,
  );
  const config = join(home, 'apache.conf');
  writeFileSync(
    config,
    `ServerRoot ${home}\nServerName sites.example\nListen 127.0.0.1:${String(port)}\nPidFile ${home}/apache.pid\nErrorLog ${home}/apache.log\n${modules}
TypesConfig /etc/mime.types\nAddLanguage en .en\nAddLanguage de .de\nAddLanguage fr .fr\nAddLanguage es .es\nAddLanguage ja .ja\nAddLanguage ko .ko\nAddLanguage tr .tr\nAddLanguage pt-br .pt-br\nAddLanguage zh-cn .zh-cn\nAddLanguage da .da\nLanguagePriority en\nForceLanguagePriority Prefer Fallback\nAddHandler type-map var\nDirectoryIndex index.html\nUser www-data\nGroup www-data\n${hosts.join('\n')}\n`,
  );
  programs.start('apache2', '-D', 'FOREGROUND', '-f', config);
}
