import type { ImportState, Staged, z } from '@gezeit/contract';
import { whoAsks } from './seat.js';
import { answerSchemas } from './answer-schemas.js';
import { ApiFailure, refusalOf } from './client.js';

/** A file to send with its path inside the bundle. */
export interface BundleFile {
  path: string;
  file: File;
}

/** Sends a bundle's files, telling the share that is sent; aborting stops it. */
export function uploadBundle(files: BundleFile[], onShare: (share: number) => void, signal: AbortSignal): Promise<ImportState> {
  return upload('/api/imports', files, onShare, signal, ({ importStateSchema }) => importStateSchema);
}

/** Sends loose exports, to be sorted: into a programme that stands, or as one of their own. */
export function uploadLoose(
  files: BundleFile[],
  { title, into }: { title: string; into: string | null },
  onShare: (share: number) => void,
  signal: AbortSignal,
): Promise<Staged> {
  const newest = files.reduce((most, { file }) => Math.max(most, file.lastModified), 0);
  const query = new URLSearchParams({
    title,
    ...(into === null ? {} : { into }),
    ...(newest > 0 ? { lastModified: new Date(newest).toISOString() } : {}),
  });
  return upload(`/api/staged?${query.toString()}`, files, onShare, signal, ({ stagedSchema }) => stagedSchema);
}

type Schemas = Awaited<ReturnType<typeof answerSchemas>>;

function upload<T>(
  path: string,
  files: BundleFile[],
  onShare: (share: number) => void,
  signal: AbortSignal,
  schemaOf: (of: Schemas) => z.ZodType<T>,
): Promise<T> {
  const form = new FormData();
  for (const { path: name, file } of files) form.append(name, file, file.name);
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', path);
    for (const [name, value] of Object.entries(whoAsks())) request.setRequestHeader(name, value);
    request.responseType = 'json';
    request.upload.onprogress = ({ loaded, total }) => onShare(total > 0 ? loaded / total : 0);
    request.onerror = () => reject(new ApiFailure('The upload was cut off.', 'Check that Gezeit is still running, then try again.'));
    request.onabort = () => reject(new ApiFailure('Cancelled.', 'Nothing was stored.', '', 'cancelled'));
    request.onload = () => resolve(answerOf(request, schemaOf));
    signal.addEventListener('abort', () => request.abort());
    request.send(form);
  });
}

async function answerOf<T>({ status, response }: XMLHttpRequest, schemaOf: (of: Schemas) => z.ZodType<T>): Promise<T> {
  const answer = schemaOf(await answerSchemas()).safeParse(response);
  if (status === 202 && answer.success) return answer.data;
  throw await refusalOf(status, response);
}

/** Follows an import's events; resolves with the state that has an outcome. */
export async function followImport(id: string, onState: (state: ImportState) => void): Promise<ImportState> {
  const { importStateSchema } = await answerSchemas();
  return new Promise((resolve, reject) => {
    const events = new EventSource(`/api/imports/${id}/events`);
    events.onmessage = ({ data }) => {
      const state = importStateSchema.parse(JSON.parse(data as string));
      onState(state);
      if (!state.outcome) return;
      events.close();
      resolve(state);
    };
    events.onerror = () => {
      if (events.readyState !== EventSource.CLOSED) return;
      reject(new ApiFailure('The connection to Gezeit was lost.', 'Look on the board whether the import came through.'));
    };
  });
}
