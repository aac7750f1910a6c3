import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { FILE_PASSWORD, FILE_USER } from './file-servers.js';
import { program, type Programs } from './programs.js';

/** Servers that `make test` has no time for, and of which some may not be installed beside others: `npm run real` gets them. */

/** Where `scripts/real.sh` unpacks what Debian lets not stand beside other servers of its kind. */
const UNPACKED = fileURLToPath(new URL('../../.tmp/servers/usr/', import.meta.url));

const unpacked = (name: string): string | null =>
  ['sbin', 'bin'].map((folder) => join(UNPACKED, folder, name)).find(existsSync) ?? null;
const isInstalled = (name: string): boolean =>
  ['/usr/sbin', '/usr/bin'].some((folder) => existsSync(join(folder, name)));

export const isThere = {
  'pure-ftpd': unpacked('pure-ftpd') !== null,
  vsftpd: unpacked('vsftpd') !== null,
  lighttpd: isInstalled('lighttpd') && existsSync('/usr/lib/lighttpd/mod_webdav.so'),
  dropbear: isInstalled('dropbear') && existsSync('/usr/lib/openssh/sftp-server'),
  named: isInstalled('named'),
} as const;

/** Pure-FTPd with TLS, dot files kept from being written, and a umask that lets nobody else read. @param home has cert.pem and key.pem */
export function servePureFtpd(programs: Programs, home: string, port: number, root: string): void {
  const [both, people, book] = ['both.pem', 'people', 'people.pdb'].map((name) => join(home, name)) as [
    string,
    string,
    string,
  ];
  const pem = ['key.pem', 'cert.pem'].map((name) => readFileSync(join(home, name), 'utf8'));
  writeFileSync(both, pem.join('\n'), { mode: 0o600 });
  execFileSync('chown', ['-R', 'www-data', root]);
  const pw = unpacked('pure-pw') ?? '';
  execFileSync(pw, ['useradd', FILE_USER, '-f', people, '-u', 'www-data', '-g', 'www-data', '-d', root], {
    input: `${FILE_PASSWORD}\n${FILE_PASSWORD}\n`,
  });
  execFileSync(pw, ['mkdb', book, '-f', people]);
  programs.start(
    unpacked('pure-ftpd') ?? '',
    ...['-S', `127.0.0.1,${String(port)}`, '-l', `puredb:${book}`, '-Y', '2', '-2', both, '-x', '-E', '-H'],
    ...['-u', '1', '-U', '177:077', '-g', join(home, 'pure.pid')],
  );
}

/** What is to be undone when the tests are over. */
type Undo = () => void;

/** vsftpd with TLS, whose users are all one guest. It knows people by PAM alone, so that a file of that is written for as long. */
export function serveVsftpd(programs: Programs, home: string, port: number, root: string): Undo {
  const pam = '/etc/pam.d/yardbadge-real';
  writeFileSync(
    pam,
    'auth required pam_permit.so\naccount required pam_permit.so\nsession required pam_permit.so\n',
  );
  execFileSync('chown', ['-R', 'www-data', root]);
  const empty = join(home, 'empty');
  mkdirSync(empty);
  const config = join(home, 'vsftpd.conf');
  const lines = [
    ...['listen=YES', 'listen_address=127.0.0.1', `listen_port=${String(port)}`, 'background=NO'],
    ...['anonymous_enable=NO', 'local_enable=YES', 'guest_enable=YES', 'guest_username=www-data'],
    ...['virtual_use_local_privs=YES', 'write_enable=YES', 'local_umask=077', `local_root=${root}`],
    ...['chroot_local_user=YES', 'allow_writeable_chroot=YES', 'pam_service_name=yardbadge-real'],
    ...['ssl_enable=YES', 'force_local_data_ssl=YES', 'force_local_logins_ssl=YES', 'require_ssl_reuse=YES'],
    ...[
      `rsa_cert_file=${home}/cert.pem`,
      `rsa_private_key_file=${home}/key.pem`,
      `secure_chroot_dir=${empty}`,
    ],
    ...['seccomp_sandbox=NO', 'isolate_network=NO', 'isolate=NO', 'check_shell=NO', 'ssl_ciphers=HIGH'],
  ];
  writeFileSync(config, `${lines.join('\n')}\n`);
  programs.start(unpacked('vsftpd') ?? '', config);
  return () => {
    rmSync(pam, { force: true });
  };
}

/** lighttpd with WebDAV over TLS. @param home has cert.pem and key.pem */
export function serveLighttpd(programs: Programs, home: string, port: number, root: string): void {
  writeFileSync(join(home, 'people'), `${FILE_USER}:${FILE_PASSWORD}\n`);
  const config = join(home, 'lighttpd.conf');
  writeFileSync(
    config,
    `server.modules = ("mod_auth", "mod_authn_file", "mod_openssl", "mod_webdav")
server.document-root = "${root}"\nserver.port = ${String(port)}\nserver.bind = "127.0.0.1"\nserver.errorlog = "${home}/error.log"\nserver.upload-dirs = ("${home}")
ssl.engine = "enable"\nssl.pemfile = "${home}/cert.pem"\nssl.privkey = "${home}/key.pem"
auth.backend = "plain"\nauth.backend.plain.userfile = "${home}/people"\nauth.require = ("/" => ("method" => "basic", "realm" => "quay", "require" => "valid-user"))
webdav.activate = "enable"\nwebdav.is-readonly = "disable"\n`,
  );
  programs.start('lighttpd', '-D', '-f', config);
}

/** Dropbear with the files of OpenSSH's server, and a person of this machine for as long. @returns who may come in */
export function serveDropbear(
  programs: Programs,
  home: string,
  port: number,
  login: string,
): { readonly user: string; readonly undo: Undo } {
  const user = 'yardbadge-real';
  execFileSync('useradd', ['-M', '-d', home, '-s', '/bin/sh', user]);
  mkdirSync(join(home, '.ssh'));
  writeFileSync(join(home, '.ssh', 'authorized_keys'), readFileSync(`${login}.pub`));
  execFileSync('chown', ['-R', user, home]);
  execFileSync('chmod', ['755', home]);
  const key = join(home, 'dropbear_host_key');
  execFileSync('dropbearkey', ['-t', 'ed25519', '-f', key], { stdio: 'ignore' });
  programs.start(
    'dropbear',
    '-F',
    '-s',
    '-r',
    key,
    '-p',
    `127.0.0.1:${String(port)}`,
    '-P',
    join(home, 'pid'),
  );
  return {
    user,
    undo: () => {
      execFileSync('userdel', [user]);
    },
  };
}

/** BIND with one zone that takes updates signed by one key. @param records of the zone file */
export function serveNamed(
  programs: Programs,
  home: string,
  port: number,
  zone: { name: string; records: string; key: string; algorithm: string; secret: Buffer },
): void {
  mkdirSync(home, { recursive: true });
  writeFileSync(join(home, 'zone'), `$ORIGIN ${zone.name}.\n$TTL 120\n${zone.records}\n`);
  const config = join(home, 'named.conf');
  writeFileSync(
    config,
    `options { directory "${home}"; listen-on port ${String(port)} { 127.0.0.1; }; listen-on-v6 { none; }; recursion no; pid-file none; session-keyfile none; managed-keys-directory "${home}"; };
controls { };
key "${zone.key}" { algorithm ${zone.algorithm}; secret "${zone.secret.toString('base64')}"; };
zone "${zone.name}" { type primary; file "${home}/zone"; allow-update { key "${zone.key}"; }; };\n`,
  );
  programs.start(program('named'), '-g', '-c', config);
}
