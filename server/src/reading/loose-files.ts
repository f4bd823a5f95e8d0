import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { GezeitError, missing, type LooseFile } from '@gezeit/core';
import { BundleFiles } from '../bundle/bundle-files.js';
import { unzip } from '../bundle/unzip.js';
import { sha256 } from '../bundle/sha256.js';
import { looksLikeWorkbook, sheetOf } from './workbook.js';

/** Files that stand in folders without being exports. */
const NO_EXPORT =
  /(^|\/)(\.[^/]*|thumbs\.db|desktop\.ini|__MACOSX\/.*|gezeit\.json|notes\.json)$|(^|\/)(__MACOSX|evidence|findings|profiles|attachments)\//i;

/** A file that may be an export, by its name below the folder that was given; members of a zip as "zip.zip/member". */
export interface FoundFile {
  file: string;
  /** Where it stands on the disk; null for a member of a zip. */
  place: string | null;
  read(): Uint8Array;
}

/** Whether a file can be an export at all, by its name. */
const mayBeExport = (file: string): boolean => !NO_EXPORT.test(file);

/** The files below some paths: files, folders and zips. @throws GezeitError where a path does not exist. */
export async function findFiles(paths: readonly string[]): Promise<FoundFile[]> {
  const found: FoundFile[] = [];
  for (const path of paths) {
    let isFolder: boolean;
    try {
      isFolder = statSync(path).isDirectory();
    } catch {
      throw missing('There is no such file or folder.', 'Check the path.', { file: path });
    }
    if (isFolder) {
      const files = BundleFiles.ofFolder(path);
      for (const name of files.names.sort()) {
        if (/\.zip$/i.test(name)) found.push(...(await membersOf(name, join(path, name))));
        else found.push({ file: name, place: join(path, name), read: () => files.read(name) });
      }
    } else if (/\.zip$/i.test(path)) found.push(...(await membersOf(basename(path), path)));
    else found.push({ file: basename(path), place: path, read: () => readFileSync(path) });
  }
  return found.filter(({ file }) => mayBeExport(file));
}

async function membersOf(name: string, path: string): Promise<FoundFile[]> {
  const folder = mkdtempSync(join(tmpdir(), 'gezeit-unpacked-'));
  process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
  await unzip(path, folder);
  const files = BundleFiles.ofFolder(folder);
  return files.names.sort().map((member) => ({ file: `${name}/${member}`, place: null, read: () => files.read(member) }));
}

/** A found file as the reader takes it: a workbook as one of its sheets. What cannot be opened is kept with the reason. */
export async function looseFile({ file, read }: FoundFile, sheet: string | null = null): Promise<LooseFile> {
  const bytes = read();
  const plain: LooseFile = { file, bytes, sha256: sha256(bytes) };
  if (!looksLikeWorkbook(file, bytes)) return plain;
  try {
    return { ...plain, sheet: await sheetOf(file, bytes, sheet) };
  } catch (error) {
    if (error instanceof GezeitError) return { ...plain, refused: error };
    throw error;
  }
}
