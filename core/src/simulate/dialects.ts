import type { DeviceRecord } from './devices.js';

/** Ways of writing a table, named for their oddity. */
export const DIALECTS = ['bracketed', 'two-storey', 'comma-mark'] as const;
export type Dialect = (typeof DIALECTS)[number];

/** The text of a record in a dialect, as bytes. */
export function writeLog(record: DeviceRecord, dialect: Dialect): Uint8Array {
  switch (dialect) {
    case 'bracketed':
      return utf8(
        rows(
          record,
          ',',
          header(record, (label, unit) => `${label} [${unit}]`),
          [],
          (time) => time.toFixed(3),
          '\n',
          point,
        ),
      );
    case 'two-storey': {
      const units = ['s', ...record.device.channels.map(({ unit }) => unit)];
      return utf8(
        rows(
          record,
          '\t',
          header(record, (label) => label),
          [units.join('\t')],
          (time) => time.toFixed(3),
          '\n',
          point,
        ),
      );
    }
    case 'comma-mark': {
      const preamble = 'Messprotokoll\r\nGeber: Nachbau\r\n\r\n';
      const body = rows(
        record,
        ';',
        header(record, (label, unit) => `${label} (${unit})`),
        [],
        clock,
        '\r\n',
        comma,
      );
      return windows1252(`${preamble}${body}Ende der Aufzeichnung\r\n`);
    }
  }
}

const point = (text: string) => text;
const comma = (text: string) => text.replace('.', ',');

function header({ device }: DeviceRecord, write: (label: string, unit: string) => string): string[] {
  return [write('Time', 's'), ...device.channels.map(({ label, unit }) => write(label, unit))];
}

function rows(
  record: DeviceRecord,
  delimiter: string,
  names: string[],
  more: string[],
  time: (timeS: number) => string,
  lineEnd: string,
  mark: (text: string) => string,
): string {
  const lines = [names.join(delimiter), ...more];
  const digits = record.device.channels.map((entry) => entry.digits);
  record.timeS.forEach((timeS, i) => {
    const cells = record.values.map((column, c) => (Number.isNaN(column[i]!) ? '' : mark(column[i]!.toFixed(digits[c]))));
    lines.push([mark(time(timeS)), ...cells].join(delimiter));
  });
  return lines.join(lineEnd) + lineEnd;
}

function clock(timeS: number): string {
  // Rounded before it is split: 19.9996 s is 20.000, not 19.1000.
  const thousandths = Math.round(timeS * 1000);
  const whole = Math.floor(thousandths / 1000);
  const pad = (value: number, length = 2) => String(value).padStart(length, '0');
  return `${Math.floor(whole / 3600)}:${pad(Math.floor(whole / 60) % 60)}:${pad(whole % 60)}.${pad(thousandths % 1000, 3)}`;
}

const utf8 = (text: string) => new TextEncoder().encode(text);
/** Every character written is in both sets but λ, which becomes a name. */
const windows1252 = (text: string) => Uint8Array.from(text.replaceAll('λ', 'lambda'), (character) => character.charCodeAt(0));
