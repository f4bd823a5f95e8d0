import type { IncomingMessage } from 'node:http';
import { GezeitError } from '@gezeit/core';
import busboy from 'busboy';

/** Largest photo or sheet that is taken, bytes. */
const MOST_BYTES = 25 * 1024 ** 2;

/** The one file of a multipart request, in memory. @throws GezeitError `no-file`, `file-too-large`. */
export async function receiveFile(request: IncomingMessage): Promise<{ name: string; bytes: Buffer }> {
  const none = () => new GezeitError('no-file', 'No file was sent.', 'Choose a photo or a sheet.');
  return new Promise((resolve, reject) => {
    let parser: busboy.Busboy;
    try {
      parser = busboy({ headers: request.headers, limits: { fileSize: MOST_BYTES, files: 1 }, defParamCharset: 'utf8' });
    } catch {
      reject(none());
      return;
    }
    let received: { name: string; bytes: Buffer } | null = null;
    parser.on('file', (_field, stream, { filename }) => {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('limit', () => reject(new GezeitError('file-too-large', 'The file is larger than 25 MB.', 'Attach a smaller one.')));
      stream.on('end', () => (received = { name: filename || 'file', bytes: Buffer.concat(chunks) }));
    });
    parser.on('error', () => reject(new GezeitError('upload-cut-off', 'The upload was cut off.', 'Send the file again.')));
    parser.on('close', () => (received ? resolve(received) : reject(none())));
    request.pipe(parser);
  });
}
