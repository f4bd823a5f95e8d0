import { connect } from 'node:net';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { Readable } from 'node:stream';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { apiErrorSchema, importStateSchema, LIMITS } from '@gezeit/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ZipFile } from 'yazl';
import { DEMO_BUNDLES, filesOf, followImport, importAll, PERSON, startServer } from './support.js';

const AIRBOX = filesOf(join(DEMO_BUNDLES, 'sealed-airbox'));
let server: Awaited<ReturnType<typeof startServer>>;
beforeAll(async () => (server = await startServer()));
afterAll(() => server.close());

const BOUNDARY = 'gezeit-test-boundary';
const partOf = (name: string, body: string | Uint8Array) =>
  Buffer.concat([
    Buffer.from(`--${BOUNDARY}\r\nContent-Disposition: form-data; name="${name}"; filename="f"\r\nContent-Type: text/plain\r\n\r\n`),
    Buffer.from(body),
    Buffer.from('\r\n'),
  ]);
const END = Buffer.from(`--${BOUNDARY}--\r\n`);
const send = (body: Uint8Array) =>
  fetch(`${server.address}api/imports`, {
    method: 'POST',
    headers: { ...PERSON, 'content-type': `multipart/form-data; boundary=${BOUNDARY}` },
    body: new Uint8Array(body),
  });
const refusalOf = async (response: Response) => apiErrorSchema.parse(await response.json()).error;
const isWell = async () => expect((await fetch(`${server.address}api/health`)).status).toBe(200);
const leftOver = () => {
  const incoming = join(server.folder, 'incoming');
  return existsSync(incoming) ? readdirSync(incoming) : [];
};
/** Imports a single .zip to its end. */
async function importZip(bytes: Uint8Array) {
  const { id } = importStateSchema.parse(await (await send(Buffer.concat([partOf('day.zip', bytes), END]))).json());
  return (await followImport(server.address, id)).at(-1)!.outcome!;
}

describe('an upload', () => {
  const names = {
    'leads out of the folder': '../x',
    'leads out of it further down': 'a/../../x',
    'is absolute': '/etc/x',
    'is a drive': 'C:\\x',
    'is a dot': '.',
    'ends in a slash': 'logs/',
    'has an empty folder in it': 'logs//x.csv',
    'has a name of 400 letters': `${'n'.repeat(400)}.csv`,
    'is 700 letters deep': 'folder/'.repeat(100),
    'holds a control character': 'a\u0001b.csv',
  };
  it.each(Object.entries(names))('whose path %s is refused, and the server goes on', async (_, name) => {
    for (const body of [
      [partOf(name, 'x'), END],
      [partOf('gezeit.json', '{}'), partOf(name, 'x'.repeat(200_000)), partOf('logs/after.csv', 'y'.repeat(200_000)), END],
    ]) {
      const response = await send(Buffer.concat(body));
      expect(response.status).toBe(400);
      expect(['bad-path', 'upload-cut-off']).toContain((await refusalOf(response)).code);
    }
    await isWell();
    await expect.poll(leftOver).toEqual([]);
  });

  it('of a part without a name is refused', async () => {
    expect((await refusalOf(await send(Buffer.concat([partOf('', 'x'), END])))).code).toBe('bad-path');
  });

  it('of a path that comes twice, or is file and folder at once, is refused', async () => {
    for (const [first, second] of [
      ['logs/a.csv', 'logs/a.csv'],
      ['logs', 'logs/a.csv'],
      ['logs/a.csv', 'logs'],
    ] as const) {
      const response = await send(Buffer.concat([partOf(first, 'x'), partOf(second, 'y'), END]));
      expect((await refusalOf(response)).code).toBe('bad-path');
    }
    await isWell();
    await expect.poll(leftOver).toEqual([]);
  });

  it('that is cut off, or is no form at all, is refused and leaves nothing', async () => {
    const cut = await send(Buffer.concat([partOf('gezeit.json', '{}'), partOf('logs/a.csv', 'x').subarray(0, 90)]));
    expect((await refusalOf(cut)).code).toBe('upload-cut-off');
    expect((await refusalOf(await send(Buffer.from('no form')))).code).toMatch(/no-file|upload-cut-off/);
    // The window is closed in the middle.
    const { hostname, port } = new URL(server.address);
    const socket = connect(Number(port), hostname);
    socket.write(
      `POST /api/imports HTTP/1.1\r\nHost: ${hostname}:${port}\r\nx-gezeit-person: T\r\nContent-Type: multipart/form-data; boundary=${BOUNDARY}\r\nContent-Length: 900000\r\n\r\n`,
    );
    socket.write(partOf('gezeit.json', 'x'.repeat(50_000)));
    await new Promise((resolve) => setTimeout(resolve, 100));
    socket.destroy();
    await expect.poll(leftOver).toEqual([]);
    await isWell();
  });

  it('of a .zip whose paths lead out of it is refused', async () => {
    const outcome = await importZip(zipSync({ 'gezeit.json': strToU8('{}'), '../../x': strToU8('x') }));
    expect(outcome).toMatchObject({ kind: 'failed', error: { code: 'bad-zip' } });
    await isWell();
  });

  it('of a .zip that inflates without end is refused before or while it is unpacked', async () => {
    const zeros = (bytes: number) =>
      Readable.from(
        (function* () {
          const chunk = Buffer.alloc(1024 ** 2);
          for (let sent = 0; sent < bytes; sent += chunk.length) yield chunk;
        })(),
      );
    const zip = new ZipFile();
    zip.addReadStream(zeros(LIMITS.bundleBytes + 2 * 1024 ** 2), 'logs/zeros.csv');
    zip.end();
    const bytes = await buffer(zip.outputStream as Readable);
    expect(bytes.length).toBeLessThan(2e6);
    const before = process.memoryUsage().rss;
    expect(await importZip(bytes)).toMatchObject({ kind: 'failed', error: { code: 'too-large' } });
    expect(process.memoryUsage().rss - before).toBeLessThan(300e6);
    // One whose directory promises less than it holds.
    const lying = Buffer.from(bytes);
    const directory = lying.lastIndexOf('PK\u0001\u0002', undefined, 'latin1');
    lying.writeUInt32LE(1000, directory + 24);
    expect(await importZip(lying)).toMatchObject({ kind: 'failed', error: { code: 'bad-zip' } });
    await isWell();
    await expect.poll(leftOver).toEqual([]);
  });

  it('of more files than a bundle may hold is refused', async () => {
    const many = Object.fromEntries(Array.from({ length: LIMITS.bundleFiles + 1 }, (_, i) => [`logs/${i}.csv`, new Uint8Array()]));
    expect(await importZip(zipSync(many, { level: 0 }))).toMatchObject({ kind: 'failed', error: { code: 'too-large' } });
  });

  it('of a description beyond the limits is refused, whatever it is that is too much', async () => {
    const good = JSON.parse(strFromU8(AIRBOX.get('gezeit.json')!)) as {
      programme: Record<string, unknown>;
      setups: { name: string }[];
      plan?: object;
    };
    const pull = { setup: 'A', kind: 'measured', atMin: 0 };
    const cases = [
      { ...good, plan: { pulls: Array.from({ length: LIMITS.plannedPulls + 1 }, (_, i) => ({ ...pull, atMin: i })) } },
      {
        ...good,
        setups: [...good.setups, ...Array.from({ length: LIMITS.setups }, (_, i) => ({ id: `S${i}`, name: 'x', parts: [], state: {} }))],
      },
      { ...good, programme: { ...good.programme, title: 'x'.repeat(LIMITS.nameLength + 1) } },
      { ...good, programme: { ...good.programme, question: 'x'.repeat(LIMITS.noteLength + 1) } },
      { ...good, padding: 'x'.repeat(LIMITS.descriptionBytes) },
    ];
    for (const description of cases) {
      const outcome = await importAll(server.address, new Map([...AIRBOX, ['gezeit.json', Buffer.from(JSON.stringify(description))]]));
      expect(outcome).toMatchObject({ kind: 'failed', error: { code: 'too-large' } });
    }
  });

  it('that is good is still taken, as files and as a .zip, and comes back byte for byte', async () => {
    const outcome = await importAll(server.address, AIRBOX);
    expect(outcome.kind).toBe('imported');
    const { programmeId } = outcome as { programmeId: string };
    const back = unzipSync(new Uint8Array(await (await fetch(`${server.address}api/programmes/${programmeId}/bundle`)).arrayBuffer()));
    for (const [file, bytes] of AIRBOX) if (file !== 'gezeit.json') expect(Buffer.from(back[file]!).equals(bytes), file).toBe(true);
    expect((await importZip(zipSync(Object.fromEntries(AIRBOX)))).kind).toBe('opened');
  });
});
