import { createHash } from 'node:crypto';
import { execFileSync, type ChildProcess } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { userInfo } from 'node:os';
import { join } from 'node:path';
import { program, type Programs } from './programs.js';

/** Who may come in to the servers that ask for a password. */
export const FILE_USER = 'jonas';
export const FILE_PASSWORD = 'lantern at the quay';
/** The password as crypt(3) keeps it. */
const KEPT =
  '$6$quaylantern$7rGpjoZ.NO.CoRnLlqW7CUVN69lobtlsFXS8jT3vZ6yRJdx/G5Mc1JYo/R2SeZyiuPOM/QuPhdZgzTIQ6l.E3/';

/** ProFTPD with TLS. @param home has cert.pem and key.pem, and takes what the server writes @param more of its configuration */
export function serveFtps(programs: Programs, home: string, port: number, root: string, more = ''): void {
  const { uid, gid } = userInfo();
  const people = `${FILE_USER}:${KEPT}:${String(uid)}:${String(gid)}::${root}:/bin/false\n`;
  writeFileSync(join(home, 'users'), people, { mode: 0o600 });
  const config = join(home, 'proftpd.conf');
  writeFileSync(
    config,
    `ServerType standalone\nDefaultAddress 127.0.0.1\nPort ${String(port)}\nUseIPv6 off\nUseReverseDNS off\nModulePath /usr/lib/proftpd\nLoadModule mod_tls.c\nScoreboardFile ${home}/score\nPidFile ${home}/ftp.pid\nSystemLog ${home}/ftp.log\nTransferLog none\nWtmpLog off\nRootLogin on\nRequireValidShell off\nAuthOrder mod_auth_file.c\nAuthUserFile ${home}/users\nAllowOverwrite on\n${more.includes('TLSEngine') ? '' : 'TLSEngine on\nTLSRequired on\n'}TLSECCertificateFile ${home}/cert.pem\nTLSECCertificateKeyFile ${home}/key.pem\n${more}`,
  );
  programs.start('proftpd', '-n', '-c', config);
}

/**
 * nginx with WebDAV over TLS. @param home has cert.pem and key.pem, and takes what the server writes
 * @param more of its configuration @param kind plain for one without TLS
 */
export function serveWebDav(
  programs: Programs,
  home: string,
  port: number,
  root: string,
  more = '',
  kind: 'ssl' | 'plain' = 'ssl',
): void {
  writeFileSync(join(home, 'people'), `${FILE_USER}:{PLAIN}${FILE_PASSWORD}\n`);
  const config = join(home, 'nginx.conf');
  const temporary = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi']
    .map((name) => `${name}_temp_path ${home}/${name};`)
    .join(' ');
  writeFileSync(
    config,
    `daemon off; user ${userInfo().username}; pid ${home}/nginx.pid; error_log ${home}/error.log; events {}
http { access_log off; ${temporary} server { listen 127.0.0.1:${String(port)}${kind === 'ssl' ? ' ssl' : ''}; ${more} ssl_certificate ${home}/cert.pem; ssl_certificate_key ${home}/key.pem;
root ${root}; client_max_body_size 60m; location / { auth_basic quay; auth_basic_user_file ${home}/people; dav_methods PUT DELETE MKCOL MOVE; dav_access user:rw group:r all:r; } } }`,
  );
  programs.start('nginx', '-e', join(home, 'error.log'), '-c', config);
}

/** Makes keys for SSH in a folder: of hosts and of people. */
export function sshKeys(home: string, names: readonly string[]): void {
  mkdirSync('/run/sshd', { recursive: true });
  for (const name of names)
    execFileSync(program('ssh-keygen'), ['-q', '-t', 'ed25519', '-N', '', '-f', join(home, name)]);
}

/**
 * OpenSSH with files alone.
 * @param given.hostKey name of the key that it shows
 * @param given.login name of the key that may come in
 * @param given.denied requests that it refuses, by their names, with commas between them
 * @param given.umask what it takes off the modes of what is made
 */
export function serveSftp(
  programs: Programs,
  home: string,
  port: number,
  {
    hostKey,
    login,
    denied = '',
    umask = '022',
  }: { hostKey: string; login: string; denied?: string; umask?: string },
): ChildProcess {
  writeFileSync(join(home, 'authorized'), readFileSync(join(home, `${login}.pub`)));
  const config = join(home, `${hostKey}-${String(port)}.conf`);
  writeFileSync(
    config,
    `Port ${String(port)}\nListenAddress 127.0.0.1\nHostKey ${join(home, hostKey)}\nPidFile none\nAuthorizedKeysFile ${join(home, 'authorized')}\nStrictModes no\nUsePAM no\nPasswordAuthentication no\nKbdInteractiveAuthentication no\nPermitRootLogin prohibit-password\nSubsystem sftp internal-sftp -u ${umask}${denied === '' ? '' : ` -P ${denied}`}\n`,
  );
  return programs.start('sshd', '-D', '-f', config);
}

/**
 * Knot with one zone that takes updates signed by its key (hmac-sha256), and by two more of the same secret, `…-384` and `…-512`, by the
 * algorithms after which they are called. @param records of the zone file, behind its SOA
 */
export function serveZone(
  programs: Programs,
  home: string,
  port: number,
  zone: { name: string; records: string; key: string; secret: Buffer },
): void {
  mkdirSync(home, { recursive: true });
  writeFileSync(join(home, `${zone.name}.zone`), `$ORIGIN ${zone.name}.\n$TTL 120\n${zone.records}\n`);
  const key = (id: string, algorithm: string) =>
    `  - id: ${id}\n    algorithm: ${algorithm}\n    secret: ${zone.secret.toString('base64')}\n`;
  const long = ['384', '512'];
  const acl = (id: string, action: string) => `  - id: ${id}\n    key: ${id}\n    action: ${action}\n`;
  writeFileSync(
    join(home, 'knot.conf'),
    `server:\n    rundir: ${home}\n    listen: 127.0.0.1@${String(port)}\ndatabase:\n    storage: ${home}\nkey:\n${key(zone.key, 'hmac-sha256')}${long.map((bits) => key(`${zone.key}-${bits}`, `hmac-sha${bits}`)).join('')}${key('reader', 'hmac-sha512')}acl:\n${acl(zone.key, 'update')}${long.map((bits) => acl(`${zone.key}-${bits}`, 'update')).join('')}${acl('reader', 'transfer')}template:\n  - id: default\n    storage: ${home}\n    file: "%s.zone"\nzone:\n  - domain: ${zone.name}\n    acl: [${[zone.key, ...long.map((bits) => `${zone.key}-${bits}`)].join(', ')}, reader]\n`,
  );
  programs.start('knotd', '-c', join(home, 'knot.conf'));
}

/**
 * Apache with WebDAV over TLS, and a login by Digest (RFC 7616). @param home has cert.pem and key.pem, and takes what the server writes
 * @param root its user has to be let in there
 */
export function serveDigest(programs: Programs, home: string, port: number, root: string): void {
  const realm = 'quay';
  const sum = createHash('md5').update(`${FILE_USER}:${realm}:${FILE_PASSWORD}`).digest('hex');
  writeFileSync(join(home, 'digests'), `${FILE_USER}:${realm}:${sum}\n`);
  const modules = [
    ...['mpm_event', 'authn_core', 'authn_file', 'authz_core', 'authz_user', 'auth_digest'],
    ...['dav', 'dav_fs', 'mime', 'socache_shmcb', 'ssl'],
  ].map((name) => `LoadModule ${name}_module /usr/lib/apache2/modules/mod_${name}.so`);
  const config = join(home, 'apache.conf');
  writeFileSync(
    config,
    `ServerRoot ${home}\nServerName quay.example\nListen 127.0.0.1:${String(port)}\nPidFile ${home}/apache.pid\nErrorLog ${home}/apache.log\n${modules.join('\n')}
TypesConfig /dev/null\nUser www-data\nGroup www-data\nDavLockDB ${root}/.locks/db\nDocumentRoot ${root}\nSSLEngine on\nSSLCertificateFile ${home}/cert.pem\nSSLCertificateKeyFile ${home}/key.pem
<Directory ${root}>\nDav On\nAuthType Digest\nAuthName ${realm}\nAuthDigestProvider file\nAuthUserFile ${home}/digests\nRequire valid-user\n</Directory>\n`,
  );
  programs.start('apache2', '-D', 'FOREGROUND', '-f', config);
}
