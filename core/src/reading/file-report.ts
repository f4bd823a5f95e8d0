import type { ReadFile } from '@gezeit/contract';
import type { ReadTable } from '../log/log-table.js';
import { reasonsText } from '../log/report-words.js';
import { wallTime } from '../units/wall-time.js';
import type { LooseFile } from './loose-file.js';
import { rateHz, shiftOf, type SweepEvent } from './sweep-event.js';

/** Of a file that could not be read. */
export const emptyReport = (file: string, sha256: string, sheet: string | null): ReadFile => ({
  file,
  sha256,
  sheet,
  device: 'unknown',
  encoding: null,
  delimiter: null,
  decimal: null,
  headerRow: null,
  unitRow: null,
  firstDataRow: null,
  rows: 0,
  time: null,
  preamble: [],
  columns: [],
  sweeps: [],
  problems: [],
});

/** What a file is taken for. */
export function fileReport(
  table: ReadTable,
  device: ReadFile['device'],
  events: readonly SweepEvent[],
  loose: LooseFile,
  timeZone: string | null,
): ReadFile {
  const { report, clock } = table;
  const { unsettled } = report;
  const isText = !loose.sheet && report.encoding !== 'JSON lines';
  return {
    ...emptyReport(loose.file, loose.sha256, loose.sheet?.name ?? null),
    device,
    encoding: isText ? report.encoding.split(' ')[0]! : null,
    delimiter: isText ? report.delimiter : null,
    decimal: isText ? (report.decimalMark === 'comma' ? ',' : '.') : null,
    headerRow: report.headerRow,
    unitRow: report.unitsRow,
    firstDataRow: report.firstDataRow,
    rows: report.rowCount,
    time:
      unsettled || !clock
        ? null
        : {
            columns: clock.columns,
            kind: clock.kind,
            startsAt: clock.startsAtMs === null ? null : wallTime(clock.startsAtMs, clock.zoneMin, timeZone),
            rateHz: rateHz(table),
            recordings: clock.recordings.length,
          },
    preamble: table.preamble,
    columns: report.columns.map(
      ({ header, takenFor, unit, section, gauge, low, middle, high, sure, rivals, duplicateOf, used, reasons }) => ({
        header,
        quantity: takenFor,
        unit,
        section,
        gauge,
        low,
        middle,
        high,
        sure,
        rivals,
        duplicateOf,
        used,
        reasons,
        why: reasonsText(reasons),
      }),
    ),
    sweeps: events.map((event) => ownSweep(table, event)),
    problems: [...(unsettled ? [{ row: null, column: null, what: unsettled.what, todo: unsettled.todo }] : []), ...report.problems],
  };
}

function ownSweep(table: ReadTable, { recording, startS, endS, fromRpm, toRpm, gear }: SweepEvent) {
  const shiftS = shiftOf(table, recording);
  return { recording, startS: startS - shiftS, endS: endS - shiftS, fromRpm, toRpm, gear };
}
