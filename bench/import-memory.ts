// The most memory that a built server takes for a large CSV that is dropped, read and kept, above what it takes idle. Needs a build.
// npm run bench:import-memory -- [megabytes]
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { importStateSchema, stagedSchema } from '@gezeit/contract';
import { followImport, formOf, PERSON } from '../server/test/support.js';
import { bigLog } from './big-log.js';
import { ServerProcess } from './kills/server-process.js';

const megabytes = Number(process.argv[2] ?? 100);
const folder = mkdtempSync(join(tmpdir(), 'gezeit-memory-'));
const server = new ServerProcess(folder);
try {
  const { address } = await server.start();
  const ask = async (path: string, init: RequestInit = {}) => (await fetch(address + path, { headers: PERSON, ...init })).json();
  await ask('api/programmes');
  const idleMB = server.peakMB;
  const files = new Map([['day.csv', new TextEncoder().encode(bigLog(megabytes))]]);
  let staged = stagedSchema.parse(await ask('api/staged?title=Large', { method: 'POST', body: formOf(files) }));
  while (staged.state === 'reading') {
    await new Promise((resolve) => setTimeout(resolve, 100));
    staged = stagedSchema.parse(await ask(`api/staged/${staged.id}`));
  }
  const sortedMB = server.peakMB;
  const { id } = importStateSchema.parse(await ask(`api/staged/${staged.id}/keep`, { method: 'POST' }));
  const outcome = (await followImport(address, id)).at(-1)!.outcome;
  const keptMB = server.peakMB;
  const times = (peakMB: number) => `${(peakMB - idleMB).toFixed(0)} MB, ${((peakMB - idleMB) / megabytes).toFixed(2)} times the file`;
  console.log(`${megabytes} MB of CSV (${staged.reading?.pulls.length} pulls, ${outcome?.kind}); idle ${idleMB.toFixed(0)} MB`);
  console.log(`most above idle until sorted: ${times(sortedMB)}; until kept and judged: ${times(keptMB)}`);
} finally {
  await server.kill();
  rmSync(folder, { recursive: true, force: true });
}
