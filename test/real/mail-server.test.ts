import { chmodSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { simpleParser, type ParsedMail } from 'mailparser';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { alertMessage } from '../../src/core/alerts/message.js';
import { Mailer, type MailSettings } from '../../src/net/mail.js';
import { Authority } from '../../src/rehearsal/authority.js';
import { removed } from '../support/removed.js';
import { stageClock } from '../support/time.js';
import { freePort, Programs } from './programs.js';

const PASSWORD = 'a-lantern';

/** The configuration of a mail server that takes mail for harbour.example, from who has signed in, and keeps it in files. */
function configFor(folder: string, ports: { readonly plain: number; readonly tls: number }): string {
  return `primary_hostname = localhost
spool_directory = ${folder}/spool
log_file_path = ${folder}/log/%slog
pid_file_path = ${folder}/exim.pid
process_log_path = ${folder}/log/process
daemon_smtp_ports = ${String(ports.plain)} : ${String(ports.tls)}
local_interfaces = 127.0.0.1
tls_on_connect_ports = ${String(ports.tls)}
tls_advertise_hosts = *
tls_certificate = ${folder}/cert.pem
tls_privatekey = ${folder}/key.pem
deliver_drop_privilege = true
rfc1413_query_timeout = 0s
host_lookup =
acl_smtp_rcpt = check_rcpt
acl_smtp_data = check_data
message_size_limit = 200K
auth_advertise_hosts = \${if eq{$tls_in_cipher}{}{}{*}}
begin acl
check_rcpt:
  deny message = not one of ours
       !authenticated = *
  deny message = nobody of that name
       local_parts = nobody
  defer message = come back later
       local_parts = busy
  accept domains = harbour.example
  deny message = no relaying
check_data:
  accept
begin routers
all:
  driver = accept
  local_parts = odile : marit
  transport = files
begin transports
files:
  driver = appendfile
  directory = ${folder}/mail/$local_part_data
  maildir_format
  create_directory
  mode_fail_narrower = false
begin retry
* * F,1h,5m
begin authenticators
plain:
  driver = plaintext
  public_name = PLAIN
  server_prompts = :
  server_condition = \${if and{{eq{$auth2}{yard}}{eq{$auth3}{${PASSWORD}}}}}
  server_set_id = $auth2
`;
}

/** What we send, taken by a mail server that others wrote. */
describe('a real mail server', () => {
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-mail-'));
  const programs = new Programs();
  let ports = { plain: 0, tls: 0 };
  let ca = '';

  const mailer = (more: Partial<MailSettings> = {}, password = PASSWORD): Mailer =>
    new Mailer(
      {
        ...{ host: 'localhost', port: ports.plain, security: 'starttls', user: 'yard' },
        ...{ passwordFrom: 'MAIL_PASSWORD', from: 'Yard Badge <yard@harbour.example>' },
        ...more,
      },
      { MAIL_PASSWORD: password },
      ca,
    );
  const message = alertMessage(
    [
      {
        ...{ id: '1', kind: 'slipping', property: 'ferries', client: 'saltmarsh' },
        ...{ says: 'The meta tag is gone: „Fährplan“ → nothing.', remedy: 'Please put it back.' },
        ...{ touches: ['ferries@veldrane:address'], since: stageClock.now(), openedAt: stageClock.now() },
        endedAt: null,
        difference: [],
      },
    ],
    { base: 'https://yard.harbour.example', zone: 'Europe/Berlin' },
  );
  const send = (by: Mailer, to: string, id = 'one') =>
    by.send({ to, ...message, id }).finally(() => {
      by.close();
    });
  const got = async (name: string): Promise<ParsedMail[]> => {
    const from = join(folder, 'mail', name, 'new');
    // The folder is there a moment before the mail is.
    const files = await vi.waitFor(
      () => {
        const there = readdirSync(from);
        if (there.length === 0) throw new Error('no mail yet');
        return there;
      },
      { timeout: 20_000 },
    );
    return Promise.all(files.map((file) => simpleParser(readFileSync(join(from, file)))));
  };

  beforeAll(async () => {
    const [plain, tls] = await Promise.all([freePort(), freePort()]);
    ports = { plain, tls };
    const authority = await Authority.open(folder, stageClock);
    const { cert, key } = await authority.issue(['localhost']);
    ca = authority.certificate.toString('pem');
    writeFileSync(join(folder, 'cert.pem'), cert);
    writeFileSync(join(folder, 'key.pem'), key);
    for (const name of ['spool', 'log', 'mail']) mkdirSync(join(folder, name));
    const config = join(folder, 'exim.conf');
    writeFileSync(config, configFor(folder, ports));
    // The server gives up what it may do: what it writes to is everybody's, inside a folder of ours.
    for (const name of ['', 'spool', 'log', 'mail']) chmodSync(join(folder, name), 0o777);
    for (const name of ['cert.pem', 'key.pem', 'exim.conf']) chmodSync(join(folder, name), 0o644);
    programs.start('exim4', '-C', config, '-bdf', '-q10m');
    await vi.waitFor(
      () =>
        new Promise<void>((done, fail) => {
          const socket = connect(ports.tls, '127.0.0.1', () => {
            socket.destroy();
            done();
          }).on('error', fail);
        }),
      { timeout: 20_000 },
    );
  });
  afterAll(async () => {
    await programs.stop();
    await removed(folder);
  });

  it.each([
    ['starttls', 'odile', 'plain'],
    ['implicit', 'marit', 'tls'],
  ] as const)('takes a mail by %s, from who has signed in, as it was written', async (security, to, port) => {
    const sent = await send(mailer({ security, port: ports[port] }), `${to}@harbour.example`);
    expect(sent).toEqual({ kind: 'taken' });
    const [mail] = await got(to);
    expect(mail).toMatchObject({
      subject: 'ferries: token gone',
      messageId: '<one@yardbadge>',
      from: { text: '"Yard Badge" <yard@harbour.example>' },
    });
    expect(mail?.headers.get('auto-submitted')).toBe('auto-generated');
    expect(mail?.text).toContain('The meta tag is gone: „Fährplan“ → nothing.');
    expect(mail?.html).toContain('„Fährplan“ → nothing.');
  });

  it('is told of one that it refuses for good', async () => {
    const sent = await send(mailer(), 'nobody@harbour.example');
    expect(sent).toMatchObject({ kind: 'refused' });
    expect(sent).toHaveProperty('says', expect.stringContaining('nobody of that name'));
    expect(await send(mailer(), 'marit@elsewhere.example')).toMatchObject({ kind: 'refused' });
  });

  it.each<[string, () => Mailer]>([
    ['asks us to come back later', () => mailer()],
    ['does not know our password', () => mailer({}, 'another')],
    ['shows a certificate of another name', () => mailer({ host: '127.0.0.1' })],
    ['is not there', () => mailer({ port: 9 })],
  ])('is tried again where it %s', async (_, by) => {
    expect(await send(by(), 'busy@harbour.example')).toMatchObject({ kind: 'again' });
  });
});
