import { createWriteStream, mkdirSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { GezeitError } from '@gezeit/core';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import { storageFailure } from '../database/storage-failure.js';
import { refuseTooLarge, safePath } from './bundle-files.js';

/**
 * Unpacks a .zip into a folder, one entry after the other. What its directory promises is counted before anything is unpacked, and an entry
 * that holds more than it promised is refused while it is read.
 * @throws GezeitError `bad-zip`, `bad-path`, `too-large`, and what storing throws.
 */
export async function unzip(path: string, folder: string): Promise<void> {
  const file = basename(path);
  const damaged = () => new GezeitError('bad-zip', 'The .zip is damaged or was cut off.', 'Copy or create it again.', { file });
  const zip = await opened(path).catch(() => Promise.reject(damaged()));
  try {
    const wanted: [Entry, string][] = [];
    let bytes = 0;
    for await (const entry of entriesOf(zip)) {
      if (entry.fileName.endsWith('/')) continue;
      const safe = safePath(entry.fileName);
      if (safe === null)
        throw new GezeitError(
          'bad-path',
          `The .zip holds "${entry.fileName.slice(0, 80)}", which is no path inside a bundle.`,
          'Create it again.',
          { file },
        );
      wanted.push([entry, safe]);
      bytes += entry.uncompressedSize;
      refuseTooLarge(wanted.length, bytes);
    }
    for (const [entry, safe] of wanted) {
      const target = join(folder, safe);
      mkdirSync(dirname(target), { recursive: true });
      await pipeline(await streamOf(zip, entry), createWriteStream(target));
    }
  } catch (error) {
    if (error instanceof GezeitError) throw error;
    throw storageFailure(error) ?? damaged();
  } finally {
    zip.close();
  }
}

function opened(path: string): Promise<ZipFile> {
  return new Promise((resolve, reject) => {
    const options = { lazyEntries: true, autoClose: false, decodeStrings: true, validateEntrySizes: true };
    yauzl.open(path, options, (error, zip) => (error ? reject(error) : resolve(zip)));
  });
}

async function* entriesOf(zip: ZipFile): AsyncGenerator<Entry> {
  for (;;) {
    const entry = await new Promise<Entry | null>((resolve, reject) => {
      const settle = (then: () => void) => {
        zip.off('entry', onEntry).off('end', onEnd).off('error', onError);
        then();
      };
      const onEntry = (next: Entry) => settle(() => resolve(next));
      const onEnd = () => settle(() => resolve(null));
      const onError = (error: Error) => settle(() => reject(error));
      zip.on('entry', onEntry).on('end', onEnd).on('error', onError);
      zip.readEntry();
    });
    if (!entry) return;
    yield entry;
  }
}

function streamOf(zip: ZipFile, entry: Entry): Promise<NodeJS.ReadableStream> {
  return new Promise((resolve, reject) => {
    zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream)));
  });
}
