import { closeSync, mkdtempSync, openSync, readSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { beyondLimits, bundleSchema, LIMITS, type Bundle } from '@gezeit/contract';
import { GezeitError, missing } from '@gezeit/core';
import { BundleFiles } from './bundle-files.js';
import { unzip } from './unzip.js';

/** A bundle's description and its files. */
export interface ReadBundle {
  bundle: Bundle;
  files: BundleFiles;
}

const DESCRIPTION = 'gezeit.json';
const LOG_LISTED_TWICE = 'List the file once a pull.';

/**
 * Reads a bundle from a folder or a .zip.
 * @param unpacked where a .zip is unpacked to; a folder that ends with the process where it is not said.
 * @throws GezeitError with the place and the next step where it is none.
 */
export async function readBundle(path: string, unpacked: () => string = temporaryFolder): Promise<ReadBundle> {
  let isFolder: boolean;
  try {
    isFolder = statSync(path).isDirectory();
  } catch {
    throw missing('There is no such file or folder.', 'Check the path.', { file: path });
  }
  if (isFolder) return bundleFromFiles(BundleFiles.ofFolder(path));
  refuseNoZip(path);
  const folder = unpacked();
  await unzip(path, folder);
  return bundleFromFiles(BundleFiles.ofFolder(folder));
}

function temporaryFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'gezeit-unpacked-'));
  process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
  return folder;
}

/** A bundle from its files; a single folder around them (as zips often have) is taken off. */
function bundleFromFiles(all: BundleFiles): ReadBundle {
  const description = all.names
    .filter((file) => file === DESCRIPTION || file.endsWith(`/${DESCRIPTION}`))
    .sort((a, b) => a.length - b.length)[0];
  if (description === undefined) {
    const next = `Add ${DESCRIPTION} beside the logs; docs/bundle.md says what stands in it.`;
    throw new GezeitError('no-description', `This is no bundle: it holds no ${DESCRIPTION}.`, next, { file: all.names[0] });
  }
  const files = all.below(description.slice(0, -DESCRIPTION.length));
  const bundle = parseDescription(files);
  const beyond = beyondLimits(bundle);
  if (beyond) throw new GezeitError('too-large', `${beyond}.`, 'Split or shorten it.', { file: DESCRIPTION });
  for (const [index, pull] of bundle.pulls.entries()) {
    const listed = pull.logs.map(({ file }) => file);
    for (const file of listed) {
      if (files.has(file)) continue;
      const next = 'Add the file, or take it off the pull.';
      throw new GezeitError('log-missing', `pulls[${index}] (${pull.id}) lists ${file}, which is not in the bundle.`, next, {
        file: DESCRIPTION,
      });
    }
    if (new Set(listed).size < listed.length) {
      throw new GezeitError('log-twice', `pulls[${index}] (${pull.id}) lists a log twice.`, LOG_LISTED_TWICE, { file: DESCRIPTION });
    }
  }
  return { bundle, files };
}

function parseDescription(files: BundleFiles): Bundle {
  const most = LIMITS.descriptionBytes;
  if (files.size(DESCRIPTION) > most)
    throw new GezeitError(
      'too-large',
      `The description is larger than ${most / 1024 ** 2} MB.`,
      'Keep notes and photos in files of their own.',
      {
        file: DESCRIPTION,
      },
    );
  let raw: unknown;
  try {
    raw = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(files.read(DESCRIPTION)).replace(/^\uFEFF/, ''));
  } catch (error) {
    const detail = error instanceof SyntaxError ? ` (${error.message})` : '';
    throw new GezeitError('bad-json', `This is not valid JSON${detail}.`, 'Correct or export it again.', { file: DESCRIPTION });
  }
  const parsed = bundleSchema.safeParse(withPlaceholders(raw));
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0]!;
  const where =
    issue.path
      .map((key) => (typeof key === 'number' ? `[${key}]` : `.${String(key)}`))
      .join('')
      .replace(/^\./, '') || 'the whole';
  throw new GezeitError('bad-bundle', `${where}: ${issue.message}.`, 'Correct the field; docs/bundle.md says what it may hold.', {
    file: DESCRIPTION,
  });
}

/** Starts that a draft leaves open, as moments that say no more than the order. */
function withPlaceholders(raw: unknown): unknown {
  const { unanswered, pulls } = (raw ?? {}) as { unanswered?: unknown; pulls?: unknown };
  if (!Array.isArray(unanswered) || unanswered.length === 0 || !Array.isArray(pulls)) return raw;
  const placed = pulls.map((pull: unknown, i) =>
    typeof pull === 'object' && pull !== null && (pull as { startedAt?: unknown }).startedAt === null
      ? { ...pull, startedAt: new Date(i * UNKNOWN_START_STEP_MS).toISOString(), startUnknown: true }
      : pull,
  );
  return { ...(raw as object), pulls: placed };
}
const UNKNOWN_START_STEP_MS = 300_000;

/** @throws GezeitError where a file does not begin as a .zip does. */
function refuseNoZip(path: string): void {
  const file = basename(path);
  const head = Buffer.alloc(2);
  const handle = openSync(path, 'r');
  const read = readSync(handle, head);
  closeSync(handle);
  if (read === 0) throw new GezeitError('empty-file', 'The file is empty.', 'Choose the bundle again.', { file });
  if (head.toString('latin1') === 'PK') return;
  throw new GezeitError(
    'no-bundle',
    'This is neither a bundle folder nor a .zip of one.',
    'Choose the folder that holds gezeit.json, or its .zip.',
    { file },
  );
}
