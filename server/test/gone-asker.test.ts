import { get } from 'node:http';
import pino from 'pino';
import { describe, expect, it } from 'vitest';
import { logRequestFailure } from '../src/http/request-failure.js';
import { serve } from '../src/serve.js';
import { DEMO_BUNDLES, filesOf, importAll, temporaryFolder } from './support.js';

/** A log that is kept in lines, down to what is told to nobody usually. */
function keptLog() {
  const lines: { level: number; msg: string; code?: string }[] = [];
  const log = pino({ level: 'debug' }, { write: (line: string) => void lines.push(JSON.parse(line) as (typeof lines)[number]) });
  return { log, lines };
}

describe('whoever asks and goes away', () => {
  it('is no fault: an answer that is left half-way is no error in the log, and the next one is whole', { timeout: 60_000 }, async () => {
    const { log, lines } = keptLog();
    const serving = await serve({ folder: temporaryFolder(), port: 0, pages: null, version: 'test', log });
    const outcome = await importAll(serving.address, filesOf(`${DEMO_BUNDLES}/sealed-airbox`));
    if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
    const bundle = `${serving.address}api/programmes/${outcome.programmeId}/bundle`;
    for (let left = 0; left < 3; left += 1)
      await new Promise<void>((resolve, reject) => {
        const asked = get(bundle, (response) => {
          response.once('data', () => response.destroy());
          response.once('close', resolve);
          response.on('error', () => undefined);
        });
        asked.on('error', reject);
      });
    await expect.poll(() => lines.filter(({ msg }) => msg === 'whoever asked has gone').length, { timeout: 20_000 }).toBeGreaterThan(0);
    expect((await fetch(bundle)).status).toBe(200);
    expect(lines.filter(({ level }) => level >= 50)).toEqual([]);
    await serving.close();
  });

  it.each([
    ['ERR_STREAM_PREMATURE_CLOSE', 20],
    ['ECONNRESET', 20],
    ['EPIPE', 20],
    ['ENOSPC', 50],
    [undefined, 50],
  ])('what a request has met with code %s is logged at level %i', (code, level) => {
    const { log, lines } = keptLog();
    logRequestFailure(log, Object.assign(new Error('met'), code ? { code } : {}));
    expect(lines.map((line) => line.level)).toEqual([level]);
  });
});
