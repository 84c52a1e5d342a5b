import { expect } from 'chai';
import { once } from 'node:events';
import { X509Certificate } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { request } from 'node:https';
import { isIP, type AddressInfo } from 'node:net';
import { join } from 'node:path';
import { connect, createServer } from 'node:tls';
import { signFor } from '../src/listen/authority';
import { command, serve, temporaryFolder, typed, type RunningServer } from '../../e2e/harness';

const data = temporaryFolder();
let server: RunningServer;
const PASSWORD = 'seven silver breams';

const typePassword = (password: string): Promise<number | null> => typed(password, data.path, 'password');

interface Answer {
  status: number;
  body: string;
  headers: Record<string, string | string[] | undefined>;
}
/** Asks over HTTPS, trusting this installation's own authority only. */
function ask(
  path: string,
  { method = 'GET', body, cookie, host }: { method?: string; body?: object; cookie?: string; host?: string } = {},
): Promise<Answer> {
  const url = new URL(path, server.url);
  return new Promise((done, failed) => {
    const asked = request(
      {
        host: url.hostname,
        port: url.port,
        path,
        method,
        ca: readFileSync(join(data.path, 'authority.pem')),
        servername: 'localhost',
        headers: {
          Host: host ?? url.host,
          ...(body ? { 'Content-Type': 'application/json' } : {}),
          ...(cookie ? { Cookie: cookie } : {}),
        },
      },
      (response) => {
        let text = '';
        response.on('data', (d) => (text += d));
        response.on('end', () => done({ status: response.statusCode!, body: text, headers: response.headers }));
      },
    );
    asked.on('error', failed);
    asked.end(body && JSON.stringify(body));
  });
}
const signIn = (password: string): Promise<Answer> => ask('/api/session', { method: 'POST', body: { password } });
const cookieOf = (answer: Answer): string => (answer.headers['set-cookie'] as string[])[0].split(';')[0];

describe('served to other devices', () => {
  before(async () => {
    const { code, text } = await command('certificate', '--data', data.path, 'boat.example');
    expect(code, text).to.equal(0);
    expect(await typePassword(PASSWORD)).to.equal(0);
    server = await serve(data.path, '--listen', '127.0.0.1');
  });
  after(async () => {
    await server.stop();
    data.remove();
  });

  it('lets nobody in without the password, and whoever has it until it is changed', async () => {
    expect(server.url).to.match(/^https:/);
    for (const path of ['/api/waters', '/api/feed', '/api/backup', '/api/reach', '/api/feed/news']) {
      const { status, body } = await ask(path);
      expect(status, path).to.equal(401);
      expect(JSON.parse(body)).to.deep.include({ code: 'not-signed-in', status: 401 });
    }
    // The pages open, so that one can sign in; they hold nothing of the log.
    expect((await ask('/deck')).status).to.equal(200);
    const wrong = await signIn('seven silver bream');
    expect(wrong.status).to.equal(401);
    expect(JSON.parse(wrong.body)).to.deep.include({ code: 'password-wrong', field: 'password' });
    const right = await signIn(PASSWORD);
    expect(right.status).to.equal(201);
    expect((right.headers['set-cookie'] as string[])[0])
      .to.match(/HttpOnly/)
      .and.match(/Secure/)
      .and.match(/SameSite=Strict/);
    const cookie = cookieOf(right);
    expect((await ask('/api/waters', { cookie })).status).to.equal(200);
    const { addresses, code } = JSON.parse((await ask('/api/reach', { cookie })).body);
    expect(addresses).to.deep.equal([server.url]);
    expect(code).to.include('<svg');
    // From another page or by a rebound name nothing is read, signed in or not.
    expect((await ask('/api/waters', { cookie, host: 'elsewhere.example' })).status).to.equal(403);
    expect(await typePassword('another long one')).to.equal(0);
    expect((await ask('/api/waters', { cookie })).status).to.equal(401);
    const anew = cookieOf(await signIn('another long one'));
    expect((await ask('/api/waters', { cookie: anew })).status).to.equal(200);
    await ask('/api/session', { method: 'DELETE', cookie: anew });
    expect((await ask('/api/waters', { cookie: anew })).status).to.equal(401);
  });
  it('reads no more of a stranger than a password is long, and ends what is listened to once the password is another', async () => {
    expect((await ask('/api/waters', { method: 'POST', body: { list: 'x'.repeat(5_000_000) } })).status).to.equal(401);
    expect((await ask('/api/session', { method: 'POST', body: { password: 'x'.repeat(20_000) } })).status).to.equal(413);
    const cookie = cookieOf(await signIn('another long one'));
    const { hostname, port, host } = new URL(server.url);
    const ended = new Promise<void>((done, failed) => {
      const listening = request(
        {
          host: hostname,
          port,
          path: '/api/feed/news',
          ca: readFileSync(join(data.path, 'authority.pem')),
          servername: 'localhost',
          headers: { Host: host, Cookie: cookie },
        },
        (response) => {
          response.on('data', () => undefined);
          response.on('close', done);
          void typePassword('yet another long one');
        },
      );
      listening.on('error', failed);
      listening.end();
    });
    await ended;
    expect((await ask('/api/waters', { cookie })).status).to.equal(401);
    expect(await typePassword('another long one')).to.equal(0);
  });
  it('tells by what its authority is known, on the page and in the code', async () => {
    const cookie = cookieOf(await signIn('another long one'));
    const { fingerprint } = JSON.parse((await ask('/api/reach', { cookie })).body) as { fingerprint: string };
    expect(fingerprint).to.equal(new X509Certificate(readFileSync(join(data.path, 'authority.pem'))).fingerprint256);
    expect((await command('certificate', '--data', data.path, 'boat.example')).text).to.include(fingerprint);
  });
  it('has an authority that a phone believes for private and own names only', async () => {
    const [cert, key] = ['authority.pem', 'authority-key.pem'].map((name) => readFileSync(join(data.path, name), 'utf8'));
    const believed = async (name: string): Promise<string> => {
      const forged = await signFor({ cert, key }, [name]);
      const other = createServer(forged, (met) => met.on('error', () => undefined)).listen(0, '127.0.0.1');
      await once(other, 'listening');
      const { port } = other.address() as AddressInfo;
      const servername = isIP(name) ? undefined : name;
      const socket = connect({ port, host: '127.0.0.1', servername, ca: cert, checkServerIdentity: () => undefined });
      const said = await once(socket, 'secureConnect').then(
        () => 'believed',
        (error: Error) => error.message,
      );
      socket.destroy();
      other.close();
      return said;
    };
    for (const name of ['boat.example', 'boat.local', '192.168.7.3', '10.1.2.3', 'fd00::7'])
      expect(await believed(name), name).to.equal('believed');
    for (const name of ['bank.example', '198.51.100.7', '2001:db8::1']) expect(await believed(name), name).to.include('permitted subtree');
    const { code, text } = await command('certificate', '--data', data.path, 'bank.example');
    expect(code).to.equal(1);
    expect(text).to.include('it may not sign for bank.example');
  });
  it('gives away the authority that a phone has to trust, and no key', async () => {
    const { status, body } = await ask('/authority.crt');
    expect(status).to.equal(200);
    expect(body)
      .to.equal(readFileSync(join(data.path, 'authority.pem'), 'utf8'))
      .and.not.include('PRIVATE');
    expect((await ask('/authority-key.pem')).status).to.equal(404);
  });
  it('makes whoever guesses wait', async () => {
    let answer: Answer;
    let tries = 0;
    do answer = await signIn(`guess ${tries}`);
    while (answer.status === 401 && ++tries < 30);
    expect(answer.status).to.equal(429);
    expect(tries).to.be.within(5, 12);
    expect((await signIn('another long one')).status, 'the right one too').to.equal(429);
  });
  it('says in words what is wrong with a certificate or a password', async () => {
    expect(await typePassword('short')).to.equal(1);
    const other = temporaryFolder();
    const bad = join(other.path, 'bad.pem');
    writeFileSync(bad, 'nothing');
    const [cert, key] = [join(data.path, 'certificate.pem'), join(data.path, 'authority-key.pem')];
    for (const [words, args] of [
      ['needs a certificate', []],
      ['belong together', ['--cert', cert]],
      ['cannot be read', ['--cert', join(other.path, 'none.pem'), '--key', key]],
      ['no certificate in PEM form', ['--cert', bad, '--key', key]],
      ['no private key', ['--cert', cert, '--key', bad]],
      ['does not belong', ['--cert', cert, '--key', key]],
    ] as const) {
      const { code, text } = await command('serve', '--port', '0', '--data', other.path, '--listen', '127.0.0.1', ...args);
      expect(code, text).to.equal(1);
      expect(text).to.include(words);
    }
    other.remove();
  });
});
