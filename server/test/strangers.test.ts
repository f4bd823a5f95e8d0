import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ROUTES } from '../src/http/app.js';
import { PERSON, startServer } from './support.js';

let server: Awaited<ReturnType<typeof startServer>>;
beforeAll(async () => (server = await startServer()));
afterAll(() => server.close());

/** A request whose address and headers are sent as they are. */
function raw(
  path: string,
  headers: Record<string, string> = {},
  method = 'GET',
): Promise<{ status: number; headers: object; text: string }> {
  const { hostname, port } = new URL(server.address);
  return new Promise((resolve, reject) => {
    const sent = request({ hostname, port, path, method, headers, setHost: !headers['host'] }, (answer) => {
      let text = '';
      answer.on('data', (chunk: Buffer) => (text += chunk.toString()));
      answer.on('end', () => resolve({ status: answer.statusCode!, headers: answer.headers, text }));
    });
    sent.on('error', reject);
    sent.end();
  });
}

describe('a stranger', () => {
  const changing = ROUTES.filter(({ method }) => method !== 'get');
  const addressOf = (path: string) => path.replace(/:\w+/g, 'x');

  it.each(changing.map(({ method, path }) => [method, path]))('’s page cannot ask for %s %s', async (method, path) => {
    const foreign: Record<string, string>[] = [
      { origin: 'http://evil.example' },
      { origin: 'null' },
      { origin: 'http://127.0.0.1:1' },
      { 'sec-fetch-site': 'cross-site' },
    ];
    for (const headers of foreign) {
      const { status, text } = await raw(addressOf(path!), { ...PERSON, ...headers }, method!.toUpperCase());
      expect(status).toBe(401);
      expect(text).toContain('other-origin');
    }
  });

  it('that is the page itself, or a program without an origin, is answered', async () => {
    const own = new URL(server.address).origin;
    for (const headers of [{ origin: own, 'sec-fetch-site': 'same-origin' }, {}] as Record<string, string>[])
      expect((await raw('/api/imports/x', { ...PERSON, ...headers }, 'DELETE')).status).toBe(404);
  });

  it('by a name that is not this machine’s is turned away, and no answer may be framed or load what is not its own', async () => {
    expect((await raw('/api/health', { host: 'evil.example' })).status).toBe(400);
    for (const path of ['/api/health', '/api/nothing', '/']) {
      const { headers } = await raw(path);
      expect(headers).toMatchObject({ 'x-frame-options': 'DENY', 'x-content-type-options': 'nosniff', 'referrer-policy': 'no-referrer' });
      const policy = (headers as Record<string, string>)['content-security-policy']!;
      for (const rule of ["script-src 'self';", "frame-ancestors 'none'", "base-uri 'none'", "form-action 'none'", "object-src 'none'"])
        expect(policy).toContain(rule);
    }
  });

  it('’s address that leads out of the pages, or is none, is refused in words', async () => {
    const paths = [
      '/../../package.json',
      '/%2e%2e/%2e%2e/package.json',
      '/..%5c..%5cpackage.json',
      '/%',
      '/%00',
      '/api/%',
      '/api/programmes/%ff',
      '//',
      '/\\',
    ];
    for (const path of paths) {
      const { status, text } = await raw(path);
      expect(status, path).toBeGreaterThanOrEqual(400);
      expect(status, path).toBeLessThan(500);
      expect(text, path).not.toMatch(/\bat \w+.*:\d+:\d+|dependencies/);
    }
  });
});
