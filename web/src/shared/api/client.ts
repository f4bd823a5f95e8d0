import {
  apiErrorSchema,
  boardSchema,
  curvesSchema,
  importStateSchema,
  programmeViewSchema,
  type Curves,
  type ImportState,
  type ProgrammeView,
} from '@gezeit/contract';
import type { z } from '@gezeit/contract';
import { usePerson } from '../person-store.js';

/** The one error that the pages handle: what is wrong, where, and what to do. */
export class ApiFailure extends Error {
  constructor(
    message: string,
    readonly nextStep: string,
    readonly place = '',
    readonly code = 'unreachable',
  ) {
    super(message);
    this.name = 'ApiFailure';
  }
}

/** A place in a bundle, in words. */
export function placeText({ file, row, column }: { file?: string; row?: number; column?: string }): string {
  return [file, row === undefined ? null : `row ${row}`, column === undefined ? null : `column ${column}`].filter(Boolean).join(', ');
}

async function send(path: string, init: RequestInit = {}): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, init);
  } catch {
    throw new ApiFailure('Gezeit does not answer.', 'Check that it is still running, then try again.');
  }
  if (response.ok) return response;
  const parsed = apiErrorSchema.safeParse(await response.json().catch(() => null));
  if (!parsed.success) throw new ApiFailure(`Gezeit answered ${response.status}.`, 'Try again.');
  const { message, nextStep, place, code } = parsed.data.error;
  throw new ApiFailure(message, nextStep, placeText(place), code);
}

async function get<T>(path: string, schema: z.ZodType<T>, signal?: AbortSignal): Promise<T> {
  return schema.parse(await (await send(path, { signal })).json());
}

async function change<T>(method: string, path: string, schema: z.ZodType<T>, body?: unknown): Promise<T> {
  const headers: Record<string, string> = { 'x-gezeit-person': encodeURIComponent(usePerson().stamp) };
  if (body !== undefined) headers['content-type'] = 'application/json';
  return schema.parse(await (await send(path, { method, headers, body: body === undefined ? undefined : JSON.stringify(body) })).json());
}

/** The server, as the pages use it. */
export const api = {
  board: () => get('/api/programmes', boardSchema),
  programme: (id: string) => get(`/api/programmes/${encodeURIComponent(id)}`, programmeViewSchema),
  curves: (id: string, signal?: AbortSignal): Promise<Curves> =>
    get(`/api/programmes/${encodeURIComponent(id)}/curves`, curvesSchema, signal),
  exclude: (id: string, pull: string, excluded: string | false | null): Promise<ProgrammeView> =>
    change('PATCH', `/api/programmes/${encodeURIComponent(id)}/pulls/${encodeURIComponent(pull)}`, programmeViewSchema, { excluded }),
  undo: (id: string): Promise<ProgrammeView> => change('POST', `/api/programmes/${encodeURIComponent(id)}/undo`, programmeViewSchema, {}),
  importState: (id: string): Promise<ImportState> => get(`/api/imports/${id}`, importStateSchema),
  chooseImport: (id: string, choice: 'version' | 'copy'): Promise<ImportState> =>
    change('POST', `/api/imports/${id}/choice`, importStateSchema, { choice }),
  cancelImport: (id: string): Promise<ImportState> => change('DELETE', `/api/imports/${id}`, importStateSchema),
  bytes: async (path: string, signal?: AbortSignal): Promise<ArrayBuffer> => (await send(path, { signal })).arrayBuffer(),
};
