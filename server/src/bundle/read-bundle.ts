import { readdirSync, readFileSync, statSync } from 'node:fs';
import { basename, join, relative, sep } from 'node:path';
import { bundleSchema, type Bundle } from '@gezeit/contract';
import { GezeitError, missing } from '@gezeit/core';
import { unzipSync } from 'fflate';

/** A bundle's description and its files by their path inside it. */
export interface BundleFiles {
  bundle: Bundle;
  files: Map<string, Uint8Array>;
}

const DESCRIPTION = 'gezeit.json';
const LOG_LISTED_TWICE = 'List the file once a pull.';

/**
 * Reads a bundle from a folder or a .zip.
 * @throws GezeitError with the place and the next step where it is none.
 */
export function readBundle(path: string): BundleFiles {
  let isFolder: boolean;
  try {
    isFolder = statSync(path).isDirectory();
  } catch {
    throw missing('There is no such file or folder.', 'Check the path.', { file: path });
  }
  return bundleFromFiles(isFolder ? filesOfFolder(path) : filesOfZip(readFileSync(path), basename(path)));
}

/** A bundle from its files; a single folder around them (as zips often have) is taken off. */
function bundleFromFiles(all: Map<string, Uint8Array>): BundleFiles {
  const description = [...all.keys()]
    .filter((file) => file === DESCRIPTION || file.endsWith(`/${DESCRIPTION}`))
    .sort((a, b) => a.length - b.length)[0];
  if (description === undefined) {
    const next = `Add ${DESCRIPTION} beside the logs; docs/bundle.md says what stands in it.`;
    throw new GezeitError('no-description', `This is no bundle: it holds no ${DESCRIPTION}.`, next, { file: [...all.keys()][0] });
  }
  const prefix = description.slice(0, -DESCRIPTION.length);
  const files = new Map([...all].filter(([file]) => file.startsWith(prefix)).map(([file, bytes]) => [file.slice(prefix.length), bytes]));
  const bundle = parseDescription(files.get(DESCRIPTION)!);
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

function parseDescription(bytes: Uint8Array): Bundle {
  let raw: unknown;
  try {
    raw = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes).replace(/^\uFEFF/, ''));
  } catch (error) {
    const detail = error instanceof SyntaxError ? ` (${error.message})` : '';
    throw new GezeitError('bad-json', `This is not valid JSON${detail}.`, 'Correct or export it again.', { file: DESCRIPTION });
  }
  const parsed = bundleSchema.safeParse(raw);
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

function filesOfFolder(root: string): Map<string, Uint8Array> {
  const files = new Map<string, Uint8Array>();
  for (const entry of readdirSync(root, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile()) continue;
    const path = join(entry.parentPath, entry.name);
    files.set(relative(root, path).split(sep).join('/'), readFileSync(path));
  }
  return files;
}

/** Files of a zip; refuses what is none or was cut off. */
function filesOfZip(bytes: Uint8Array, file: string): Map<string, Uint8Array> {
  if (bytes.length === 0) throw new GezeitError('empty-file', 'The file is empty.', 'Choose the bundle again.', { file });
  if (bytes[0] !== 0x50 || bytes[1] !== 0x4b) {
    throw new GezeitError(
      'no-bundle',
      'This is neither a bundle folder nor a .zip of one.',
      'Choose the folder that holds gezeit.json, or its .zip.',
      { file },
    );
  }
  try {
    return new Map(Object.entries(unzipSync(bytes)).filter(([name]) => !name.endsWith('/')));
  } catch {
    throw new GezeitError('bad-zip', 'The .zip is damaged or was cut off.', 'Copy or create it again.', { file });
  }
}
