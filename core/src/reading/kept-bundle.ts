import {
  decidedOf,
  recordingOfPull,
  stagedKey,
  type Bundle,
  type ChannelMapping,
  type Channels,
  type Pull,
  type Reading,
  type StagedDecisions,
  type StagedHints,
} from '@gezeit/contract';
import { draftProgramme } from '../question/defaults.js';

/** Where nothing tells when pulls were driven, they stand so far apart, s. */
const UNKNOWN_APART_S = 300;

/** The bundle of a reading with what was decided about it. `logName` says under which name a file is kept. */
export function keptBundle(reading: Reading, hints: StagedHints, decisions: StagedDecisions, logName: (file: string) => string): Bundle {
  const draft = draftProgramme({ title: decisions.title, aspiration: hints.aspiration });
  draft.programme.bandRpm = hints.bandRpm;
  const pulls = keptPulls(reading, hints, decisions, logName);
  const used = new Set(pulls.map(({ setup }) => setup));
  const setups = decisions.setups
    .filter(({ id }, i) => i === 0 || used.has(id))
    .map(({ id, name }, i) => ({ id, name, reference: i === 0, parts: [], state: {} }));
  const channels = channelsOf(reading, decisions, logName);
  return { ...draft, setups, pulls, ...(channels ? { channels } : {}) };
}

/** The pulls of a reading with what was decided about them; what was left out is not among them. */
export function keptPulls(reading: Reading, hints: StagedHints, decisions: StagedDecisions, logName: (file: string) => string): Pull[] {
  const deviceOf = new Map(reading.files.map(({ file, device }) => [file, device]));
  const starts = startsOf(reading, hints, decisions);
  const weather = decisions.weather ?? hints.weather;
  return reading.pulls.flatMap((pull, i): Pull[] => {
    const { setup, kind } = decidedOf(pull, decisions.pulls) ?? { setup: decisions.setups[0]!.id, kind: 'measured' };
    if (kind === 'left-out') return [];
    if (kind === 'drive' && isLaterOfDrive(reading.pulls, i, decisions)) return [];
    const ambient = decisions.weather ?? hints.ambients[stagedKey(pull)] ?? weather;
    return [
      {
        id: pull.id,
        setup,
        kind: kind === 'conditioning' || kind === 'drive' ? kind : 'measured',
        ...(kind === 'aborted' ? { aborted: true, excluded: 'aborted' } : {}),
        ...starts[i]!,
        ...(ambient ? { ambient } : {}),
        logs: pull.members.map(({ file, ...member }) => ({
          file: logName(file),
          device: deviceOf.get(file) ?? 'daq',
          ...member,
          ...(kind === 'drive' ? { startS: null, endS: null } : {}),
        })),
      },
    ];
  });
}

/** Whether an earlier sweep of the same recording is the drive already. */
const isLaterOfDrive = (pulls: Reading['pulls'], index: number, { pulls: decided }: StagedDecisions): boolean =>
  pulls
    .slice(0, index)
    .some((pull) => recordingOfPull(pull) === recordingOfPull(pulls[index]!) && decidedOf(pull, decided)?.kind === 'drive');

/** When each pull was driven: as its files say, else from the day and the time that were typed. */
function startsOf(
  { pulls }: Reading,
  { afterS }: StagedHints,
  { day, firstAt }: StagedDecisions,
): Pick<Pull, 'startedAt' | 'startUnknown'>[] {
  const zoned = (text: string) => (/(Z|[+-]\d\d:\d\d)$/.test(text) ? text : `${text}Z`);
  const typedMs = day === null ? null : Date.parse(`${day}T${(firstAt ?? '12:00').padEnd(8, ':00')}Z`);
  return pulls.map((pull, i) => {
    if (pull.startedAt !== null) return { startedAt: zoned(pull.startedAt) };
    const behindS = afterS?.[stagedKey(pull)] ?? i * UNKNOWN_APART_S;
    const startedAt = new Date((typedMs ?? 0) + behindS * 1000).toISOString();
    return typedMs !== null && firstAt !== null && afterS !== null ? { startedAt } : { startedAt, startUnknown: true };
  });
}

/** What was decided about columns and dates, under the names by which the bundle knows its files. */
function channelsOf(reading: Reading, { channels, dateOrder }: StagedDecisions, logName: (file: string) => string): Channels | null {
  const kept: Channels = {};
  for (const [key, map] of Object.entries(channels ?? {})) kept[key.startsWith('file:') ? `file:${logName(key.slice(5))}` : key] = map;
  if (dateOrder)
    for (const { file, columns, time } of reading.files) {
      const dates = time && time.kind === 'dateTime' ? time.columns.map((index) => columns[index]!.header) : [];
      const map: Record<string, ChannelMapping> = { ...kept[`file:${logName(file)}`] };
      for (const header of dates) map[header] ??= { quantity: 'time', unit: dateOrder };
      if (dates.length > 0) kept[`file:${logName(file)}`] = map;
    }
  return Object.keys(kept).length > 0 ? kept : null;
}
