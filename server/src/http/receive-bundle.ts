import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import type { IncomingMessage } from 'node:http';
import { dirname, join, normalize, sep } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { GezeitError } from '@gezeit/core';
import busboy from 'busboy';

const MOST_BYTES = 4 * 1024 ** 3;

/**
 * Writes the files of a multipart request into a folder, under the paths that their field names say. A single .zip stays one file.
 * Returns the path of the bundle. Nothing is left behind where it fails.
 * @throws GezeitError `no-file`, `bad-path`, `upload-cut-off`.
 */
export async function receiveBundle(request: IncomingMessage, folder: string): Promise<string> {
  await mkdir(folder, { recursive: true });
  try {
    const files = await receiveFiles(request, folder);
    const [only] = files;
    if (!only) throw new GezeitError('no-file', 'No file was sent.', 'Choose a bundle: its folder or its .zip.');
    const isOneFile = files.length === 1 && !only.endsWith('gezeit.json');
    return isOneFile ? join(folder, only) : folder;
  } catch (error) {
    await rm(folder, { recursive: true, force: true });
    throw error;
  }
}

async function receiveFiles(request: IncomingMessage, folder: string): Promise<string[]> {
  const files: string[] = [];
  const writing: Promise<void>[] = [];
  const parser = parserFor(request);
  parser.on('file', (path, stream) => {
    const safe = safePath(path);
    if (safe === null) {
      stream.resume();
      writing.push(
        Promise.reject(new GezeitError('bad-path', `"${path}" is no path inside a bundle.`, 'Choose the bundle folder itself.')),
      );
      return;
    }
    files.push(safe);
    writing.push(
      mkdir(dirname(join(folder, safe)), { recursive: true }).then(() => pipeline(stream, createWriteStream(join(folder, safe)))),
    );
  });
  try {
    await pipeline(request, parser);
    await Promise.all(writing);
  } catch (error) {
    await Promise.allSettled(writing);
    if (error instanceof GezeitError) throw error;
    throw new GezeitError('upload-cut-off', 'The upload was cut off.', 'Send the bundle again.');
  }
  return files;
}

function parserFor(request: IncomingMessage): busboy.Busboy {
  try {
    return busboy({ headers: request.headers, limits: { fileSize: MOST_BYTES }, preservePath: true });
  } catch {
    throw new GezeitError('no-file', 'The request carries no files.', 'Send the bundle as multipart/form-data.');
  }
}

/** The path inside the bundle folder, or null where it would lead out of it. */
function safePath(path: string): string | null {
  const plain = normalize(path.replaceAll('\\', '/')).split(sep).join('/');
  if (plain === '' || plain === '.' || plain.startsWith('/') || plain.split('/').includes('..') || /^[A-Za-z]:/.test(plain)) return null;
  return plain;
}
