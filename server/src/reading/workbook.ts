import { LIMITS } from '@gezeit/contract';
import { GezeitError } from '@gezeit/core';
import readXlsxFile from 'read-excel-file/node';
import yauzl from 'yauzl';

/** A sheet of a workbook as a table parted by tabs, in bytes. */
export interface SheetTable {
  name: string;
  text: Uint8Array;
}

const ZIP_MARK = [0x50, 0x4b, 0x03, 0x04];

/** Whether bytes are a workbook: a .zip that says so by its name. */
export const looksLikeWorkbook = (file: string, bytes: Uint8Array): boolean =>
  /\.xls[xm]$/i.test(file) && ZIP_MARK.every((byte, i) => bytes[i] === byte);

/**
 * A sheet of a workbook: the one that is asked for, else the first that holds a table.
 * @throws GezeitError `too-large`, `bad-workbook`, `no-sheet`.
 */
export async function sheetOf(file: string, bytes: Uint8Array, wanted: string | null = null): Promise<SheetTable> {
  await refuseTooLarge(file, bytes);
  let sheets: Awaited<ReturnType<typeof readXlsxFile>>;
  try {
    sheets = await readXlsxFile(Buffer.from(bytes));
  } catch {
    throw new GezeitError(
      'bad-workbook',
      'The workbook cannot be opened: it is damaged or locked with a password.',
      'Save it again, or export the sheet as CSV.',
      { file },
    );
  }
  const filled = (data: readonly (readonly unknown[])[]) =>
    data.filter((row) => row.filter((cell) => cell !== null && cell !== '').length > 1).length;
  const chosen =
    wanted === null ? (sheets.find(({ data }) => filled(data) > 2) ?? sheets[0]) : sheets.find(({ sheet }) => sheet === wanted);
  if (!chosen) {
    const names = sheets.map(({ sheet }) => `"${sheet}"`).join(', ');
    throw new GezeitError('no-sheet', `The workbook holds no sheet "${wanted ?? ''}".`, `Choose one of ${names}.`, { file });
  }
  const rows = chosen.data.map((row) => row.map(cellText));
  return { name: chosen.sheet, text: new TextEncoder().encode(rows.map((row) => row.join('\t')).join('\n')) };
}

function cellText(cell: unknown): string {
  if (cell instanceof Date) return cell.toISOString().replace('Z', '');
  if (typeof cell === 'boolean') return cell ? '1' : '0';
  return typeof cell === 'number' || typeof cell === 'string' ? String(cell).replace(/[\t\r\n"]+/g, ' ') : '';
}

/** What a workbook unpacks to is counted before it is unpacked. */
async function refuseTooLarge(file: string, bytes: Uint8Array): Promise<void> {
  const unpacked = await new Promise<number>((resolve) => {
    yauzl.fromBuffer(Buffer.from(bytes), { lazyEntries: true }, (error, zip) => {
      if (error) return resolve(0);
      let sum = 0;
      zip.on('entry', (entry: { uncompressedSize: number }) => {
        sum += entry.uncompressedSize;
        zip.readEntry();
      });
      zip.on('end', () => resolve(sum));
      zip.on('error', () => resolve(sum));
      zip.readEntry();
    });
  });
  if (unpacked > LIMITS.bundleBytes)
    throw new GezeitError(
      'too-large',
      `Unpacked, the workbook holds more than ${LIMITS.bundleBytes / 1024 ** 2} MB.`,
      'Export the sheet as CSV.',
      { file },
    );
}
