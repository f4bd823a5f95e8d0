import {
  apiErrorSchema,
  boardSchema,
  cellEntrySchema,
  createdSchema,
  curvesSchema,
  dayViewSchema,
  fileQuestionSchema,
  importStateSchema,
  partsSchema,
  programmeViewSchema,
  rigTruthSchema,
  searchSchema,
  vehicleEntrySchema,
  z,
  type Amendment,
  type Cell,
  type Curves,
  type DayEvent,
  type DayView,
  type DeviceSetting,
  type Edit,
  type EvidenceDraft,
  type ImportState,
  type ProgrammeView,
  type RigCommand,
  type Vehicle,
} from '@gezeit/contract';
import { usePerson } from '../person-store.js';
import { useConnection } from './connection-store.js';

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
  useConnection().heard(response);
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

const programmePath = (id: string) => `/api/programmes/${encodeURIComponent(id)}`;

/** The server, as the pages use it. */
export const api = {
  board: () => get('/api/programmes', boardSchema),
  programme: (id: string) => get(programmePath(id), programmeViewSchema),
  curves: (id: string, signal?: AbortSignal): Promise<Curves> =>
    get(`/api/programmes/${encodeURIComponent(id)}/curves`, curvesSchema, signal),
  amend: (id: string, pull: string, amendment: Amendment): Promise<ProgrammeView> =>
    change(
      'POST',
      `/api/programmes/${encodeURIComponent(id)}/pulls/${encodeURIComponent(pull)}/amendments`,
      programmeViewSchema,
      amendment,
    ),
  exclude: (id: string, pull: string, excluded: string | false | null): Promise<ProgrammeView> =>
    change('PATCH', `/api/programmes/${encodeURIComponent(id)}/pulls/${encodeURIComponent(pull)}`, programmeViewSchema, { excluded }),
  undo: (id: string): Promise<ProgrammeView> => change('POST', `/api/programmes/${encodeURIComponent(id)}/undo`, programmeViewSchema, {}),
  createProgramme: (body: { title: string; aspiration: string; vehicleId: string | null; cellId: string | null }) =>
    change('POST', '/api/programmes', createdSchema, body),
  edit: (id: string, edit: Edit): Promise<ProgrammeView> => change('PATCH', programmePath(id), programmeViewSchema, edit),
  archive: (id: string, archived: boolean) => change('POST', `${programmePath(id)}/archived`, boardSchema, { archived }),
  revalidate: (id: string) => change('POST', `${programmePath(id)}/revalidations`, createdSchema, {}),
  keepEvidence: (id: string, evidence: EvidenceDraft): Promise<ProgrammeView> =>
    change('POST', `${programmePath(id)}/evidence`, programmeViewSchema, evidence),
  removeEvidence: (id: string, key: string): Promise<ProgrammeView> =>
    change('DELETE', `${programmePath(id)}/evidence/${encodeURIComponent(key)}`, programmeViewSchema),
  attach: async (id: string, file: File): Promise<string> => {
    const body = new FormData();
    body.append('file', file, file.name);
    const headers = { 'x-gezeit-person': encodeURIComponent(usePerson().stamp) };
    return createdSchema.parse(await (await send(`${programmePath(id)}/attachments`, { method: 'POST', headers, body })).json()).id;
  },
  removeAttachment: (id: string, file: string): Promise<ProgrammeView> =>
    change('DELETE', `${programmePath(id)}/attachments?file=${encodeURIComponent(file)}`, programmeViewSchema),
  attachmentAddress: (id: string, file: string) => `${programmePath(id)}/attachments?file=${encodeURIComponent(file)}`,
  day: (id: string, signal?: AbortSignal): Promise<DayView> => get(`${programmePath(id)}/day`, dayViewSchema, signal),
  dayLive: (id: string) => `${programmePath(id)}/day/live`,
  dayEvents: (id: string, events: readonly DayEvent[]): Promise<DayView> =>
    change('POST', `${programmePath(id)}/day/events`, dayViewSchema, { events: events.map(({ by: _by, ...event }) => event) }),
  dayFile: async (id: string, file: File) => {
    const body = new FormData();
    body.append('file', file, file.name);
    const headers = { 'x-gezeit-person': encodeURIComponent(usePerson().stamp) };
    const path = `${programmePath(id)}/day/files?madeAtMs=${file.lastModified}`;
    const schema = z.object({ file: z.string().nullable(), questions: z.array(fileQuestionSchema) });
    return schema.parse(await (await send(path, { method: 'POST', headers, body })).json());
  },
  dayMatch: (id: string, final: boolean) =>
    change('POST', `${programmePath(id)}/day/match`, z.object({ questions: z.array(fileQuestionSchema) }), { final }),
  setDevice: (id: string, setting: DeviceSetting): Promise<DayView> =>
    change('POST', `${programmePath(id)}/day/devices`, dayViewSchema, setting),
  removeDevice: (id: string, device: string): Promise<DayView> =>
    change('DELETE', `${programmePath(id)}/day/devices/${encodeURIComponent(device)}`, dayViewSchema),
  rig: (id: string, command: RigCommand): Promise<DayView> => change('POST', `${programmePath(id)}/day/rig`, dayViewSchema, command),
  servePull: (id: string, pull: string, to: { programmeId: string; setup: string }): Promise<DayView> =>
    change('POST', `${programmePath(id)}/day/pulls/${encodeURIComponent(pull)}/serves`, dayViewSchema, to),
  rigTruth: (id: string) => get(`${programmePath(id)}/day/rig/truth`, rigTruthSchema),
  vehicles: () => get('/api/vehicles', z.array(vehicleEntrySchema)),
  cells: () => get('/api/cells', z.array(cellEntrySchema)),
  addVehicle: (vehicle: Vehicle) => change('POST', '/api/vehicles', createdSchema, vehicle),
  addCell: (cell: Cell) => change('POST', '/api/cells', createdSchema, cell),
  parts: () => get('/api/parts', partsSchema),
  search: (words: string, signal?: AbortSignal) => get(`/api/search?q=${encodeURIComponent(words)}`, searchSchema, signal),
  importState: (id: string): Promise<ImportState> => get(`/api/imports/${id}`, importStateSchema),
  chooseImport: (id: string, choice: 'version' | 'copy'): Promise<ImportState> =>
    change('POST', `/api/imports/${id}/choice`, importStateSchema, { choice }),
  cancelImport: (id: string): Promise<ImportState> => change('DELETE', `/api/imports/${id}`, importStateSchema),
  bytes: async (path: string, signal?: AbortSignal): Promise<ArrayBuffer> => (await send(path, { signal })).arrayBuffer(),
};
