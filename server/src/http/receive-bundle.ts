import { createWriteStream, mkdirSync } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import type { IncomingMessage } from 'node:http';
import { dirname, join } from 'node:path';
import type { Readable } from 'node:stream';
import { LIMITS } from '@gezeit/contract';
import { GezeitError } from '@gezeit/core';
import busboy from 'busboy';
import { refuseTooLarge, safePath } from '../bundle/bundle-files.js';
import { storageFailure } from '../database/storage-failure.js';

/**
 * Writes the files of a multipart request into a folder, under the paths that their field names say. A single .zip stays one file.
 * Returns the path of the bundle. Nothing is left behind where it fails.
 * @throws GezeitError `no-file`, `bad-path`, `too-large`, `upload-cut-off`, and what storing throws.
 */
export async function receiveBundle(request: IncomingMessage, folder: string): Promise<string> {
  try {
    await mkdir(folder, { recursive: true });
    const files = await receiveFiles(request, folder);
    const [only] = files;
    if (!only) throw new GezeitError('no-file', 'No file was sent.', 'Choose a bundle: its folder or its .zip.');
    const isOneFile = files.length === 1 && !only.endsWith('gezeit.json');
    return isOneFile ? join(folder, only) : folder;
  } catch (error) {
    await rm(folder, { recursive: true, force: true }).catch(() => undefined);
    throw storageFailure(error) ?? error;
  }
}

/** The same for loose exports: the folder holds them under their paths. @throws as `receiveBundle`. */
export async function receiveLooseFiles(request: IncomingMessage, folder: string): Promise<void> {
  try {
    await mkdir(folder, { recursive: true });
    const files = await receiveFiles(request, folder);
    if (files.length === 0) throw new GezeitError('no-file', 'No file was sent.', 'Choose the exports of the day.');
  } catch (error) {
    await rm(folder, { recursive: true, force: true }).catch(() => undefined);
    throw storageFailure(error) ?? error;
  }
}

/** Takes every part to its end: the request is read whatever becomes of it, and the first thing that went wrong is told. */
async function receiveFiles(request: IncomingMessage, folder: string): Promise<string[]> {
  const files: string[] = [];
  const writing: Promise<void>[] = [];
  let failure: unknown = null;
  let bytes = 0;
  const parser = parserFor(request);
  parser.on('file', (path: string | undefined, stream) => {
    stream.on('error', (error) => (failure ??= error));
    stream.on('data', (chunk: Buffer) => (bytes += chunk.length));
    try {
      const safe = safePath(path ?? '');
      if (safe === null) throw badPath(path ?? '');
      refuseTooLarge(files.length + 1, bytes);
      if (failure !== null) throw failure;
      files.push(safe);
      writing.push(
        save(stream, join(folder, safe), () => refuseTooLarge(files.length, bytes)).catch(
          (error: unknown) => (failure ??= named(error, safe)) as void,
        ),
      );
    } catch (error) {
      failure ??= error;
      stream.resume();
    }
  });
  await parsed(request, parser).catch((error: unknown) => (failure ??= error));
  await Promise.all(writing);
  if (failure === null) return files;
  if (failure instanceof GezeitError) throw failure;
  throw storageFailure(failure) ?? new GezeitError('upload-cut-off', 'The upload was cut off.', 'Send the bundle again.');
}

/** Hands a request to a parser to its end. What the parser does not take is read all the same: half-read, nobody would see the answer. */
function parsed(request: IncomingMessage, parser: busboy.Busboy): Promise<void> {
  return new Promise((resolve, reject) => {
    const stop = (error: Error) => {
      request.unpipe(parser);
      request.resume();
      parser.destroy();
      reject(error);
    };
    parser.on('error', (error: Error) => stop(error));
    parser.on('close', () => resolve());
    request.on('close', () => {
      if (!request.complete) stop(new Error('the request was cut off'));
    });
    request.pipe(parser);
  });
}

/** Writes a part of the request into a file. Where that fails the part is read to its end all the same, or the rest would never come. */
function save(stream: Readable, file: string, check: () => void): Promise<void> {
  return new Promise((resolve, reject) => {
    mkdirSync(dirname(file), { recursive: true });
    const sink = createWriteStream(file, { flags: 'wx' });
    const stop = (error: unknown) => {
      stream.unpipe(sink);
      stream.resume();
      sink.destroy();
      reject(error as Error);
    };
    stream.on('data', () => {
      try {
        check();
      } catch (error) {
        stop(error);
      }
    });
    stream.on('close', () => sink.end());
    sink.on('error', stop);
    sink.on('close', () => resolve());
    stream.pipe(sink);
  });
}

/** Errors of the file system that a path itself is the reason of. */
const OF_THE_PATH = ['ENAMETOOLONG', 'ENOTDIR', 'EISDIR', 'EEXIST', 'EINVAL', 'ENOENT'];
function named(error: unknown, path: string): unknown {
  return OF_THE_PATH.includes((error as NodeJS.ErrnoException).code ?? '') ? badPath(path) : error;
}

const badPath = (path: string) =>
  new GezeitError('bad-path', `"${path.slice(0, 80)}" is no path inside a bundle, or came twice.`, 'Choose the bundle folder itself.');

function parserFor(request: IncomingMessage): busboy.Busboy {
  try {
    return busboy({
      headers: request.headers,
      limits: { files: LIMITS.bundleFiles + 1, fields: 0 },
      preservePath: true,
      defParamCharset: 'utf8',
    });
  } catch {
    throw new GezeitError('no-file', 'The request carries no files.', 'Send the bundle as multipart/form-data.');
  }
}
