import { answerSchemas } from './answer-schemas.js';
import { api } from './client.js';

/** Samples of one column. */
export interface TraceSamples {
  timeS: Float64Array;
  values: Float64Array;
}

/** Columns of a log, reduced by the server to what the screen can show, by column id; of a stretch of its clock alone where one is given. */
export async function fetchTraces(
  logId: string,
  columns: string[],
  points: number | 'whole',
  signal: AbortSignal,
  span: readonly [number, number] | null = null,
): Promise<Map<string, TraceSamples>> {
  const path = `/api/logs/${logId}/traces?columns=${columns.join(',')}${points === 'whole' ? '&whole=true' : `&points=${points}`}${span ? `&fromS=${span[0]}&toS=${span[1]}` : ''}`;
  const [bytes, { traceHeaderSchema }] = await Promise.all([api.bytes(path, { signal }), answerSchemas()]);
  const headerLength = new DataView(bytes).getUint32(0, true);
  const header = traceHeaderSchema.parse(JSON.parse(new TextDecoder().decode(new Uint8Array(bytes, 4, headerLength))));
  const traces = new Map<string, TraceSamples>();
  let at = 4 + headerLength;
  const take = (length: number): Float64Array => {
    const samples = new Float64Array(bytes.slice(at, at + 8 * length));
    at += 8 * length;
    return samples;
  };
  for (const { column, length } of header.series) traces.set(column, { timeS: take(length), values: take(length) });
  return traces;
}
