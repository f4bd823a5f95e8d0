import { execFileSync, spawnSync } from 'node:child_process';
import { chmodSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { request as plainRequest } from 'node:http';
import { request as tlsRequest } from 'node:https';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { dayViewSchema } from '@gezeit/contract';
import pino from 'pino';
import { generate } from 'selfsigned';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { AccessKeys } from '../src/access/access-keys.js';
import { ROUTES } from '../src/http/app.js';
import { serve, type Serving } from '../src/serve.js';
import { PERSON, temporaryFolder } from './support.js';
import { gezeitHere } from './command-here.js';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));
const COMMAND = join(ROOT, 'server/bin/gezeit.js');

interface Answer {
  status: number;
  headers: Record<string, string | string[] | undefined>;
  text: string;
}

interface Asked {
  method?: string;
  headers?: Record<string, string>;
  body?: string;
  /** An address of this machine that the request comes from. */
  localAddress?: string;
}

/** A request as it is, to either entrance; certificates of a test are nobody's. */
function ask(address: string, path: string, { method = 'GET', headers = {}, body, localAddress }: Asked = {}): Promise<Answer> {
  const { hostname, port, protocol } = new URL(address);
  return new Promise((resolve, reject) => {
    const options = { hostname, port, path, method, headers, localAddress, rejectUnauthorized: false, setHost: !headers['host'] };
    const sent = (protocol === 'https:' ? tlsRequest : plainRequest)(options, (answer) => {
      let text = '';
      answer.on('data', (chunk: Buffer) => (text += chunk.toString()));
      answer.on('error', reject);
      answer.on('end', () => resolve({ status: answer.statusCode!, headers: answer.headers, text }));
    });
    sent.on('error', reject);
    sent.end(body);
  });
}

const FORM = { 'content-type': 'application/x-www-form-urlencoded' };
const form = (key: string, next = '/') => new URLSearchParams({ key, next }).toString();

let folder: string;
let keyFile: string;
let keys: AccessKeys;
let full: string;
let reading: string;
let serving: Serving;
let network: string;
let tls: { certificate: string; key: string };

/** Comes in by a key: the cookie that a browser sends from then on. */
async function comeIn(key: string): Promise<string> {
  const { status, headers } = await ask(network, '/door', { method: 'POST', headers: FORM, body: form(key) });
  expect(status).toBe(303);
  return String(headers['set-cookie']).split(';')[0]!;
}

const start = () =>
  serve({
    folder,
    port: 0,
    pages: null,
    version: 'test',
    log: pino({ level: 'silent' }),
    network: { host: '127.0.0.1', port: 0, accessKeys: keyFile, tls, names: ['cell.example'] },
  });

beforeAll(async () => {
  folder = temporaryFolder();
  keyFile = join(folder, 'access-keys.json');
  keys = new AccessKeys(keyFile);
  full = keys.make({ name: 'desk upstairs', readOnly: false }).text;
  reading = keys.make({ name: 'board in the hall', readOnly: true }).text;
  const { cert, private: secret } = await generate([{ name: 'commonName', value: 'cell.example' }]);
  tls = { certificate: join(folder, 'cell.pem'), key: join(folder, 'cell-key.pem') };
  writeFileSync(tls.certificate, cert);
  writeFileSync(tls.key, secret);
  serving = await start();
  network = serving.networkAddress!;
}, 60_000);
afterAll(() => serving.close());

const pathOf = (path: string) => path.replace(/:\w+/g, 'x');

describe('the shop’s network', () => {
  it('is answered by TLS beside the machine itself, which needs no key', async () => {
    expect(network).toMatch(/^https:/);
    expect((await ask(serving.address, '/api/health')).status).toBe(200);
    expect(JSON.parse((await ask(serving.address, '/api/access')).text)).toEqual({
      from: 'machine',
      plain: false,
      readOnly: false,
      key: null,
      until: null,
    });
  });

  it.each(ROUTES.map(({ method, path }) => [method.toUpperCase(), path]))('%s %s needs a key', async (method, path) => {
    for (const headers of [{}, { cookie: '__Host-gezeit-session=made-up' }] as Record<string, string>[]) {
      const { status, text } = await ask(network, pathOf(path!), { method, headers: { ...PERSON, ...headers } });
      expect(status).toBe(401);
      expect(JSON.parse(text)).toMatchObject({ error: { code: 'key-needed' } });
    }
  });

  it('shows nothing but its door, with a form that runs no script, at every other address', async () => {
    for (const path of ['/', '/programmes/x/verdict', '/nothing', '/%2e%2e/package']) {
      const { status, headers, text } = await ask(network, path);
      expect(status, path).toBe(401);
      expect(text, path).toContain('Access key');
      expect(String(headers['content-security-policy'])).toContain("default-src 'none'");
    }
    for (const path of ['/assets/index.js', '/service-worker.js', '/icon.svg']) expect((await ask(network, path)).status, path).toBe(401);
  });

  it('lets in by a key, with a cookie that scripts and other sites do not get, and back to where one was', async () => {
    const { status, headers } = await ask(network, '/door', {
      method: 'POST',
      headers: FORM,
      body: form(full, '/programmes/7/day?pull=2'),
    });
    expect(status).toBe(303);
    expect(headers['location']).toBe('/programmes/7/day?pull=2');
    const cookie = String(headers['set-cookie']);
    for (const part of [/^__Host-gezeit-session=/, /; secure/i, /; httponly/i, /; samesite=strict/i, /; path=\//])
      expect(cookie).toMatch(part);
    const access = await ask(network, '/api/access', { headers: { cookie: cookie.split(';')[0]! } });
    expect(JSON.parse(access.text)).toMatchObject({ from: 'network', plain: false, readOnly: false, key: 'desk upstairs' });
  });

  it('sends nobody elsewhere, and shows what was typed as text', async () => {
    for (const next of ['//evil.example', 'https://evil.example', '/\\evil.example', 'x', '/door', '/a b', '']) {
      const { headers } = await ask(network, '/door', { method: 'POST', headers: FORM, body: form(full, next) });
      expect(headers['location'], next).toBe('/');
    }
    const { text } = await ask(network, `/door?next=${encodeURIComponent('/"><script>alert(1)</script>')}`);
    expect(text).not.toContain('<script>');
  });

  it('answers by its own names alone, and changes nothing for another origin', async () => {
    const cookie = await comeIn(full);
    const { port } = new URL(network);
    for (const host of [`127.0.0.1:${port}`, `cell.example:${port}`, 'CELL.example'])
      expect((await ask(network, '/api/health', { headers: { cookie, host } })).status, host).toBe(200);
    for (const host of ['evil.example', '192.0.2.7', '[::1]', 'cell.example.evil.example'])
      expect((await ask(network, '/api/health', { headers: { cookie, host } })).status, host).toBe(400);
    for (const origin of ['https://evil.example', 'null', network.replace('https', 'http').slice(0, -1)])
      expect((await ask(network, '/api/programmes', { method: 'POST', headers: { ...PERSON, cookie, origin } })).status, origin).toBe(401);
    const own = { ...PERSON, cookie, origin: network.slice(0, -1), 'content-type': 'application/json' };
    expect((await ask(network, '/api/programmes', { method: 'POST', headers: own, body: '{"title":"From upstairs"}' })).status).toBe(201);
  });

  it('prints a sheet for a key that reads: that changes nothing', async () => {
    const { status, text } = await ask(network, '/api/pdf', { method: 'POST', headers: { ...PERSON, cookie: await comeIn(reading) } });
    expect(status).toBe(400);
    expect(text).toContain('no-page');
  });

  const changing = ROUTES.filter(({ method, path }) => method !== 'get' && path !== '/api/pdf');
  it.each(changing.map(({ method, path }) => [method.toUpperCase(), path]))(
    '%s %s is refused to a key that reads',
    async (method, path) => {
      const cookie = await comeIn(reading);
      const { status, text } = await ask(network, pathOf(path!), { method, headers: { ...PERSON, cookie } });
      expect(status).toBe(403);
      expect(text).toContain('read-only-key');
      expect((await ask(network, '/api/programmes', { headers: { cookie } })).status).toBe(200);
    },
  );

  it('sets no device, whatever the key', async () => {
    const cookie = await comeIn(full);
    for (const [method, path] of [
      ['POST', '/api/programmes/x/day/devices'],
      ['DELETE', '/api/programmes/x/day/devices/folder-1'],
    ])
      expect((await ask(network, path!, { method, headers: { ...PERSON, cookie } })).text, path).toContain('only-on-machine');
  });

  it('ends with its key: revoked or run out, also for what is being followed', async () => {
    const made = keys.make({ name: 'visitor', readOnly: false });
    const cookie = await comeIn(made.text);
    const programme = await ask(network, '/api/programmes', {
      method: 'POST',
      headers: { ...PERSON, cookie, 'content-type': 'application/json' },
      body: '{"title":"Followed"}',
    });
    const { id } = JSON.parse(programme.text) as { id: string };
    const followed = ask(network, `/api/programmes/${id}/day/live`, { headers: { cookie } }).catch(() => 'cut off');
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect((await ask(network, '/api/health', { headers: { cookie } })).status).toBe(200);
    keys.revoke(made.key.id);
    expect((await ask(network, '/api/health', { headers: { cookie } })).status).toBe(401);
    expect((await ask(network, '/door', { method: 'POST', headers: FORM, body: form(made.text) })).status).toBe(401);
    expect(await followed).toBe('cut off');
    const shortLived = keys.make({ name: 'old', readOnly: true, days: 1 });
    const kept = JSON.parse(readFileSync(keyFile, 'utf8')) as { keys: { id: string; expires: string }[] };
    for (const key of kept.keys) if (key.id === shortLived.key.id) key.expires = '2020-01-01T00:00:00.000Z';
    writeFileSync(keyFile, JSON.stringify(kept));
    expect((await ask(network, '/door', { method: 'POST', headers: FORM, body: form(shortLived.text) })).status).toBe(401);
  });

  it('is left by one step', async () => {
    const cookie = await comeIn(full);
    expect((await ask(network, '/door/leave', { method: 'POST', headers: { cookie } })).status).toBe(200);
    expect((await ask(network, '/api/health', { headers: { cookie } })).status).toBe(401);
  });

  it('lets five wrong keys a minute be tried from an address, and a good one wait as well', async () => {
    const from = (key: string, localAddress = '127.0.0.9') =>
      ask(network, '/door', { method: 'POST', headers: FORM, body: form(key), localAddress });
    const wrong = ['', 'x', full.slice(0, -1), `${full}x`, full.replace(/_[0-9a-f]{8}_/, '_00000000_')];
    for (const key of wrong) expect((await from(key)).status).toBe(401);
    const refused = await from(full);
    expect(refused.status).toBe(429);
    expect(Number(refused.headers['retry-after'])).toBeGreaterThan(30);
    expect((await from(full, '127.0.0.10')).status).toBe(303);
  });
});

describe('a day under way', () => {
  const BEGUN = { kind: 'begun', day: '2026-06-11', pulls: [{ setup: 'A', kind: 'measured', atMin: 0 }], fitted: 'A' };
  let id: string;
  let cookie: string;
  let number = 0;
  const json = { ...PERSON, 'content-type': 'application/json' };
  const say = (from: 'machine' | 'network', seat: string, what: object, at = new Date().toISOString()) =>
    ask(from === 'machine' ? serving.address : network, `/api/programmes/${id}/day/events`, {
      method: 'POST',
      headers: { ...json, 'x-gezeit-seat': seat, ...(from === 'network' ? { cookie } : {}) },
      body: JSON.stringify({ events: [{ id: `network-test-${(number += 1)}`, at, what }] }),
    });
  const hold = (from: 'machine' | 'network', seat: string) =>
    ask(from === 'machine' ? serving.address : network, `/api/programmes/${id}/day/hold`, {
      method: 'POST',
      headers: { ...json, 'x-gezeit-seat': seat, ...(from === 'network' ? { cookie } : {}) },
      body: '{}',
    });
  const STOP = { kind: 'stop-acknowledged', text: 'seen' };
  const NOTE = { kind: 'note', text: 'a note', pull: null, files: [] };
  const holderOf = ({ status, text }: Answer) => {
    expect(status, text).toBe(200);
    return dayViewSchema.parse(JSON.parse(text)).holder;
  };

  beforeAll(async () => {
    cookie = await comeIn(full);
    const made = await ask(serving.address, '/api/programmes', { method: 'POST', headers: json, body: '{"title":"Held"}' });
    ({ id } = JSON.parse(made.text) as { id: string });
  });

  it('is acted on by whoever began it, and by nobody from upstairs', async () => {
    expect(holderOf(await say('machine', 'laptop', BEGUN))).toMatchObject({ seat: 'laptop', from: 'machine', before: null });
    for (const what of [STOP, NOTE]) {
      const { status, text } = await say('network', 'desk', what);
      expect(status).toBe(409);
      expect(text).toContain('held-elsewhere');
    }
    for (const path of ['match', 'rig'])
      expect(
        (
          await ask(network, `/api/programmes/${id}/day/${path}`, {
            method: 'POST',
            headers: { ...json, cookie, 'x-gezeit-seat': 'desk' },
            body: path === 'rig' ? '{"do":"engine","on":true}' : '{"final":true}',
          })
        ).text,
      ).toContain('held-elsewhere');
    expect((await say('machine', 'laptop', NOTE)).status).toBe(200);
  });

  it('is handed over by a step of its own; what the one before did until then still counts, and nothing after it', async () => {
    const before = new Date(Date.now() - 1000).toISOString();
    const taken = holderOf(await hold('network', 'desk'));
    expect(taken).toMatchObject({ seat: 'desk', from: 'network', before: 'TS Test Suite' });
    expect((await say('machine', 'laptop', NOTE)).status).toBe(409);
    expect((await say('machine', 'laptop', NOTE, before)).status).toBe(200);
    expect((await say('machine', 'another', NOTE, before)).status).toBe(409);
    expect((await say('network', 'desk', NOTE)).status).toBe(200);
  });

  it('is held by the same after a restart, and by nobody once it has ended', async () => {
    await serving.close();
    serving = await start();
    network = serving.networkAddress!;
    cookie = await comeIn(full);
    expect((await say('machine', 'laptop', NOTE)).text).toContain('held-elsewhere');
    expect(holderOf(await say('network', 'desk', { kind: 'ended', reason: 'enough', open: [] }))).toBeNull();
    expect((await hold('machine', 'laptop')).text).toContain('no-day');
    expect(holderOf(await say('machine', 'laptop', BEGUN))).toMatchObject({ seat: 'laptop' });
  });
});

describe('access keys', () => {
  it('are kept as digests in a file that its owner alone may read', () => {
    const text = readFileSync(keyFile, 'utf8');
    for (const key of [full, reading]) expect(text).not.toContain(/_([\w-]{43})$/.exec(key)![1]);
    if (process.platform !== 'win32') expect(statSync(keyFile).mode & 0o777).toBe(0o600);
  });

  it('in a file that others may read, that is garbled or missing, are refused in words', async () => {
    const other = join(temporaryFolder(), 'keys.json');
    const made = new AccessKeys(other);
    expect(() => made.all()).toThrow(/no file/);
    made.make({ name: '', readOnly: false });
    chmodSync(other, 0o644);
    expect(() => made.all()).toThrow(/Others/);
    chmodSync(other, 0o600);
    writeFileSync(other, '{"keys":');
    expect(() => made.all()).toThrow(/cannot be read/);
    for (const days of [0, 1.5, 731, Number.NaN]) expect(() => made.make({ name: '', readOnly: false, days })).toThrow(/days/);
  });
});

const inNamespace = spawnSync('unshare', ['-rn', 'true']).status === 0 && spawnSync('ip', ['-V']).status === 0;

describe('the command', () => {
  const gezeit = (args: string[]) => gezeitHere(args, { GEZEIT_DATA: join(temporaryFolder(), 'data') });

  it('makes, lists and revokes keys', async () => {
    const file = join(temporaryFolder(), 'keys.json');
    // As it is shipped.
    const wanted = ['key', 'new', '--read-only', '--name', 'hall', '--days', '3', '--access-keys', file];
    const made = spawnSync(process.execPath, [COMMAND, ...wanted], { encoding: 'utf8' });
    expect(made.stdout).toMatch(/^gz_[0-9a-f]{8}_[\w-]{43}\n$/);
    const { id } = new AccessKeys(file).all()[0]!;
    expect((await gezeit(['key', 'list', '--access-keys', file])).stdout).toMatch(new RegExp(`${id} · hall · reads alone · until `));
    expect((await gezeit(['key', 'revoke', id, '--access-keys', file])).stdout).toContain('Revoked');
    expect((await gezeit(['key', 'list', '--access-keys', file])).stdout).toContain('revoked 2');
    expect(await gezeit(['key', 'revoke', 'nobody', '--access-keys', file])).toMatchObject({ status: 2 });
  });

  it('refuses a network without keys, without TLS, with half of it, and with a certificate that is none', async () => {
    const file = join(temporaryFolder(), 'keys.json');
    new AccessKeys(file).make({ name: '', readOnly: false });
    const at = ['serve', '--host', '127.0.0.2'];
    const cases: [string[], string][] = [
      [at, '--access-keys'],
      [[...at, '--access-keys', file], '--plain'],
      [[...at, '--access-keys', file, '--tls-key', file], '--tls-certificate'],
      [[...at, '--access-keys', file, '--plain', '--tls-key', file, '--tls-certificate', file], 'exclude'],
      [[...at, '--access-keys', `${file}.not`, '--plain'], 'gezeit key new'],
      [[...at, '--access-keys', file, '--tls-key', file, '--tls-certificate', file], 'PEM'],
      [['serve', '--host', '192.0.2.1', '--access-keys', file, '--plain'], 'address of its own'],
    ];
    for (const [args, word] of cases) {
      const { status, stderr } = await gezeit(args);
      expect(status, args.join(' ')).toBe(2);
      expect(stderr, args.join(' ')).toContain(word);
    }
  });

  it.skipIf(!inNamespace)('answers in a network of its own at its address, and at no other (skipped where none can be made)', () => {
    const file = join(folder, 'namespace-keys.json');
    const key = new AccessKeys(file).make({ name: '', readOnly: false }).text;
    const script = `
      set -e
      ip link set lo up; ip addr add 10.77.0.1/24 dev lo; ip addr add 10.77.0.2/24 dev lo
      GEZEIT_DATA=${join(folder, 'namespace')} GEZEIT_LOG=silent "${process.execPath}" "${COMMAND}" serve --host 10.77.0.1 --access-keys "${file}" \
        --tls-certificate "${tls.certificate}" --tls-key "${tls.key}" &
      "${process.execPath}" -e '
        const https = require("https");
        const ask = (host, path, options = {}, body) => new Promise((resolve) => {
          const sent = https.request({ host, port: 4781, path, rejectUnauthorized: false, ...options }, (answer) => {
            answer.resume(); answer.on("end", () => resolve([answer.statusCode, answer.headers]));
          });
          sent.on("error", (error) => resolve([error.code])); sent.end(body);
        });
        (async () => {
          for (let i = 0; i < 150 && (await ask("10.77.0.1", "/"))[0] !== 401; i += 1) await new Promise((r) => setTimeout(r, 200));
          const form = { method: "POST", headers: { "content-type": "application/x-www-form-urlencoded" } };
          const [status, headers] = await ask("10.77.0.1", "/door", form, "key=" + process.argv[1]);
          const cookie = String(headers && headers["set-cookie"]).split(";")[0];
          const [inside] = await ask("10.77.0.1", "/api/programmes", { headers: { cookie } });
          const [elsewhere] = await ask("10.77.0.2", "/");
          const plain = await new Promise((resolve) => require("http").get("http://10.77.0.1:4780/", () => resolve("answered")).on("error", (e) => resolve(e.code)));
          console.log(JSON.stringify({ status, inside, elsewhere, plain }));
        })();' ${key}
      kill %1; wait 2>/dev/null || true`;
    const told = execFileSync('unshare', ['-rn', 'bash', '-c', script], { encoding: 'utf8', timeout: 90_000 });
    const [last] = told.split('\n').filter((line) => line.startsWith('{"status"'));
    expect(JSON.parse(last!)).toEqual({ status: 303, inside: 200, elsewhere: 'ECONNREFUSED', plain: 'ECONNREFUSED' });
  });
});
