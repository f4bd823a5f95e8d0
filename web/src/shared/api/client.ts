import type {
  Access,
  AlignmentByHand,
  Amendment,
  ApiError,
  Board,
  Cell,
  Choices,
  ChoicesExtent,
  Curves,
  DayEvent,
  DayView,
  DeviceProfile,
  DeviceSetting,
  Edit,
  EvidenceDraft,
  CheckedAgain,
  ClaimChecked,
  ImportState,
  ProgrammeChanged,
  Staged,
  StagedDecisions,
  RigCommand,
  SheetSource,
  Vehicle,
  z,
  Undone,
} from '@gezeit/contract';
import { answerSchemas } from './answer-schemas.js';
import { useConnection } from './connection-store.js';
import { whoAsks } from './seat.js';

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

  /** What was caught, where it says itself what to do; else what is said here. */
  static of(caught: unknown, ...instead: ConstructorParameters<typeof ApiFailure>): ApiFailure {
    return caught instanceof ApiFailure ? caught : new ApiFailure(...instead);
  }
}

/** What was caught while an answer was asked for and read. */
export const answerFailure = (caught: unknown): ApiFailure =>
  ApiFailure.of(caught, 'The answer of Gezeit could not be read.', 'Reload the page; if it happens again, report it.', '', 'unreadable');

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
  const refusal = await refusalOf(response.status, await response.json().catch(() => null));
  // The key is to be shown again: at the door, and then back to where one was.
  if (refusal.code === 'key-needed') location.assign(`/door?next=${encodeURIComponent(location.pathname + location.search)}`);
  throw refusal;
}

/** The failure that a refusal of the server becomes. */
export async function refusalOf(status: number, body: unknown): Promise<ApiFailure> {
  const parsed = (await answerSchemas()).apiErrorSchema.safeParse(body);
  if (!parsed.success) return new ApiFailure(`Gezeit answered ${status}.`, 'Try again.');
  const { message, nextStep, place, code } = (parsed.data as ApiError).error;
  return new ApiFailure(message, nextStep, placeText(place), code);
}

type Schemas = Awaited<ReturnType<typeof answerSchemas>>;
type SchemaOf<T> = (schemas: Schemas) => z.ZodType<T>;

async function checked<T>(schemaOf: SchemaOf<T>, answer: Promise<unknown>): Promise<T> {
  const [schemas, body] = await Promise.all([answerSchemas(), answer]);
  return schemaOf(schemas).parse(body);
}

async function get<T>(path: string, schemaOf: SchemaOf<T>, signal?: AbortSignal): Promise<T> {
  return checked(
    schemaOf,
    send(path, { signal }).then((response) => response.json()),
  );
}

/** The browser finishes what is being sent when its page is left, as long as that is short: it allows 64 KiB in all. */
const OUTLIVES_PAGE_CHARACTERS = 15_000;

/** @param onStored called once the change is on the server; what is judged anew may follow later. */
async function change<T>(method: string, path: string, schemaOf: SchemaOf<T>, body?: unknown, onStored = () => {}): Promise<T> {
  const headers = { ...whoAsks(), prefer: 'respond-async' };
  if (body !== undefined) Object.assign(headers, { 'content-type': 'application/json' });
  const text = body === undefined ? undefined : JSON.stringify(body);
  const sent = send(path, { method, headers, body: text, keepalive: (text?.length ?? 0) <= OUTLIVES_PAGE_CHARACTERS });
  return checked(
    schemaOf,
    sent.then(async (response) => {
      onStored();
      const answer = (await response.json()) as object;
      // Stored, but what was to be judged anew could not be.
      if (response.status === ACCEPTED && 'error' in answer) throw await refusalOf(response.status, answer);
      return answer;
    }),
  );
}
const ACCEPTED = 202;

/** The board is drawn after so long, ms, whatever is still being judged: that follows. */
const BOARD_WITHIN_MS = 150;

const programmePath = (id: string) => `/api/programmes/${encodeURIComponent(id)}`;

/** The server, as the pages use it. */
export const api = {
  /** Asked before the schemas are fetched, which the board is drawn without: handed on as it came. */
  access: async (): Promise<Access> => (await (await send('/api/access')).json()) as Access,
  leave: async (): Promise<void> => void (await send('/door/leave', { method: 'POST' })),
  stamp: async (id: string): Promise<string> => (await get(`${programmePath(id)}/stamp`, (of) => of.stampAnswerSchema)).stamp,
  /**
   * The board, which is drawn before the schemas are fetched: its answer is handed on as it came, and held against its schema after that.
   * @param onUnreadable called where it does not hold.
   */
  board: async (onUnreadable: () => void = () => {}): Promise<Board> => {
    const board = (await (await send(`/api/programmes?withinMs=${BOARD_WITHIN_MS}`)).json()) as Board;
    void answerSchemas().then(({ boardSchema }) => boardSchema.safeParse(board).success || onUnreadable());
    return board;
  },
  programme: (id: string) => get(programmePath(id), (of) => of.programmeViewSchema),
  curves: (id: string, signal?: AbortSignal): Promise<Curves> =>
    get(`/api/programmes/${encodeURIComponent(id)}/curves`, (of) => of.curvesSchema, signal),
  choices: (id: string, extent: ChoicesExtent, signal?: AbortSignal): Promise<Choices> =>
    get(`/api/programmes/${encodeURIComponent(id)}/choices?extent=${extent}`, (of) => of.choicesSchema, signal),
  amend: (id: string, pull: string, amendment: Amendment): Promise<ProgrammeChanged> =>
    change(
      'POST',
      `/api/programmes/${encodeURIComponent(id)}/pulls/${encodeURIComponent(pull)}/amendments`,
      (of) => of.programmeChangedSchema,
      amendment,
    ),
  exclude: (id: string, pull: string, excluded: string | false | null): Promise<ProgrammeChanged> =>
    change('PATCH', `/api/programmes/${encodeURIComponent(id)}/pulls/${encodeURIComponent(pull)}`, (of) => of.programmeChangedSchema, {
      excluded,
    }),
  align: (id: string, pull: string, moved: AlignmentByHand): Promise<ProgrammeChanged> =>
    change('PATCH', `${programmePath(id)}/pulls/${encodeURIComponent(pull)}/alignment`, (of) => of.programmeChangedSchema, moved),
  undo: (id: string): Promise<Undone> => change('POST', `/api/programmes/${encodeURIComponent(id)}/undo`, (of) => of.undoneSchema, {}),
  createProgramme: (body: { title: string; aspiration: string; vehicleId: string | null; cellId: string | null }) =>
    change('POST', '/api/programmes', (of) => of.createdSchema, body),
  edit: (id: string, edit: Edit, onStored: () => void): Promise<ProgrammeChanged> =>
    change('PATCH', programmePath(id), (of) => of.programmeChangedSchema, edit, onStored),
  archive: (id: string, archived: boolean) => change('POST', `${programmePath(id)}/archived`, (of) => of.boardSchema, { archived }),
  revalidate: (id: string) => change('POST', `${programmePath(id)}/revalidations`, (of) => of.createdSchema, {}),
  keepEvidence: (id: string, evidence: EvidenceDraft): Promise<ProgrammeChanged> =>
    change('POST', `${programmePath(id)}/evidence`, (of) => of.programmeChangedSchema, evidence),
  removeEvidence: (id: string, key: string): Promise<ProgrammeChanged> =>
    change('DELETE', `${programmePath(id)}/evidence/${encodeURIComponent(key)}`, (of) => of.programmeChangedSchema),
  sheet: (id: string, signal?: AbortSignal): Promise<SheetSource> =>
    get(`${programmePath(id)}/sheet`, (of) => of.sheetSourceSchema, signal),
  claim: (id: string, text: string, setup: string): Promise<ClaimChecked> =>
    get(`${programmePath(id)}/claim?text=${encodeURIComponent(text)}&setup=${encodeURIComponent(setup)}`, (of) => of.claimCheckedSchema),
  fixed: (id: string, key: string, signal?: AbortSignal): Promise<z.infer<Schemas['fixedAnswerSchema']>> =>
    get(`${programmePath(id)}/fixed/${encodeURIComponent(key)}`, (of) => of.fixedAnswerSchema, signal),
  fix: (id: string, why: string): Promise<ProgrammeChanged> =>
    change('POST', `${programmePath(id)}/fixed`, (of) => of.programmeChangedSchema, { why }),
  removeFixed: (id: string, key: string): Promise<ProgrammeChanged> =>
    change('DELETE', `${programmePath(id)}/fixed/${encodeURIComponent(key)}`, (of) => of.programmeChangedSchema),
  checkFixed: (id: string, key: string): Promise<CheckedAgain> =>
    get(`${programmePath(id)}/fixed/${encodeURIComponent(key)}/check`, (of) => of.checkedAgainSchema),
  attach: async (id: string, file: File): Promise<string> => {
    const body = new FormData();
    body.append('file', file, file.name);
    const headers = whoAsks();
    const sent = send(`${programmePath(id)}/attachments`, { method: 'POST', headers, body }).then((response) => response.json());
    return (await checked((of) => of.createdSchema, sent)).id;
  },
  removeAttachment: (id: string, file: string): Promise<ProgrammeChanged> =>
    change('DELETE', `${programmePath(id)}/attachments?file=${encodeURIComponent(file)}`, (of) => of.programmeChangedSchema),
  attachmentAddress: (id: string, file: string) => `${programmePath(id)}/attachments?file=${encodeURIComponent(file)}`,
  day: (id: string, signal?: AbortSignal): Promise<DayView> => get(`${programmePath(id)}/day`, (of) => of.dayViewSchema, signal),
  dayLive: (id: string) => `${programmePath(id)}/day/live`,
  dayEvents: (id: string, events: readonly DayEvent[]): Promise<DayView> =>
    change('POST', `${programmePath(id)}/day/events`, (of) => of.dayViewSchema, { events: events.map(({ by: _by, ...event }) => event) }),
  holdDay: (id: string): Promise<DayView> => change('POST', `${programmePath(id)}/day/hold`, (of) => of.dayViewSchema, {}),
  dayFile: async (id: string, file: File) => {
    const body = new FormData();
    body.append('file', file, file.name);
    const headers = whoAsks();
    const path = `${programmePath(id)}/day/files?madeAtMs=${file.lastModified}`;
    return checked(
      (of) => of.dayFileSchema,
      send(path, { method: 'POST', headers, body }).then((response) => response.json()),
    );
  },
  dayMatch: (id: string, final: boolean) => change('POST', `${programmePath(id)}/day/match`, (of) => of.fileMatchSchema, { final }),
  setDevice: (id: string, setting: DeviceSetting): Promise<DayView> =>
    change('POST', `${programmePath(id)}/day/devices`, (of) => of.dayViewSchema, setting),
  removeDevice: (id: string, device: string): Promise<DayView> =>
    change('DELETE', `${programmePath(id)}/day/devices/${encodeURIComponent(device)}`, (of) => of.dayViewSchema),
  rig: (id: string, command: RigCommand): Promise<DayView> =>
    change('POST', `${programmePath(id)}/day/rig`, (of) => of.dayViewSchema, command),
  servePull: (id: string, pull: string, to: { programmeId: string; setup: string }): Promise<DayView> =>
    change('POST', `${programmePath(id)}/day/pulls/${encodeURIComponent(pull)}/serves`, (of) => of.dayViewSchema, to),
  rigTruth: (id: string) => get(`${programmePath(id)}/day/rig/truth`, (of) => of.rigTruthSchema),
  vehicles: () => get('/api/vehicles', (of) => of.vehicleEntriesSchema),
  cells: () => get('/api/cells', (of) => of.cellEntriesSchema),
  addVehicle: (vehicle: Vehicle) => change('POST', '/api/vehicles', (of) => of.createdSchema, vehicle),
  addCell: (cell: Cell) => change('POST', '/api/cells', (of) => of.createdSchema, cell),
  parts: () => get('/api/parts', (of) => of.partsSchema),
  search: (words: string, signal?: AbortSignal) => get(`/api/search?q=${encodeURIComponent(words)}`, (of) => of.searchSchema, signal),
  profiles: () => get('/api/profiles', (of) => of.deviceProfilesSchema),
  saveProfile: (profile: DeviceProfile) => change('POST', '/api/profiles', (of) => of.deviceProfilesSchema, profile),
  removeProfile: (id: string) => change('DELETE', `/api/profiles/${encodeURIComponent(id)}`, (of) => of.deviceProfilesSchema),
  stagedList: () => get('/api/staged', (of) => of.stagedListSchema),
  staged: (id: string, signal?: AbortSignal): Promise<Staged> =>
    get(`/api/staged/${encodeURIComponent(id)}`, (of) => of.stagedSchema, signal),
  decideStaged: (id: string, decisions: StagedDecisions): Promise<Staged> =>
    change('PATCH', `/api/staged/${encodeURIComponent(id)}`, (of) => of.stagedSchema, decisions),
  directStaged: (id: string, programmeId: string | null): Promise<Staged> =>
    change('PATCH', `/api/staged/${encodeURIComponent(id)}/into`, (of) => of.stagedSchema, { programmeId }),
  keepStaged: (id: string): Promise<ImportState> =>
    change('POST', `/api/staged/${encodeURIComponent(id)}/keep`, (of) => of.importStateSchema),
  takeStagedBack: (id: string): Promise<Staged> =>
    change('POST', `/api/staged/${encodeURIComponent(id)}/take-back`, (of) => of.stagedSchema),
  throwStagedAway: (id: string) => change('DELETE', `/api/staged/${encodeURIComponent(id)}`, (of) => of.doneSchema),
  importState: (id: string): Promise<ImportState> => get(`/api/imports/${id}`, (of) => of.importStateSchema),
  chooseImport: (id: string, choice: 'version' | 'copy'): Promise<ImportState> =>
    change('POST', `/api/imports/${id}/choice`, (of) => of.importStateSchema, { choice }),
  cancelImport: (id: string): Promise<ImportState> => change('DELETE', `/api/imports/${id}`, (of) => of.importStateSchema),
  bytes: async (path: string, init?: RequestInit): Promise<ArrayBuffer> => (await send(path, init)).arrayBuffer(),
};
