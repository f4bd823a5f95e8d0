import type { IncomingMessage } from 'node:http';
import { GezeitError } from '@gezeit/core';
import busboy from 'busboy';

/** What kind of file is taken: how large, MB, and what to do instead. */
export interface FileKind {
  mostMB: number;
  choose: string;
  tooLarge: string;
}
export const PHOTO_OR_SHEET: FileKind = { mostMB: 25, choose: 'Choose a photo or a sheet.', tooLarge: 'Attach a smaller one.' };
export const LOG_FILE: FileKind = {
  mostMB: 512,
  choose: 'Choose a log file.',
  tooLarge: 'Export the day’s pulls one by one, or with fewer channels.',
};

/** The one file of a multipart request, in memory. @throws GezeitError `no-file`, `file-too-large`. */
export async function receiveFile(
  request: IncomingMessage,
  { mostMB, choose, tooLarge }: FileKind,
): Promise<{ name: string; bytes: Buffer }> {
  const none = () => new GezeitError('no-file', 'No file was sent.', choose);
  return new Promise((resolve, reject) => {
    let parser: busboy.Busboy;
    try {
      parser = busboy({ headers: request.headers, limits: { fileSize: mostMB * 1024 ** 2, files: 1, fields: 0 }, defParamCharset: 'utf8' });
    } catch {
      request.resume();
      reject(none());
      return;
    }
    let received: { name: string; bytes: Buffer } | null = null;
    // Whatever is refused is read to its end: half-read, nobody would see the answer.
    const refuse = (error: GezeitError) => {
      request.unpipe(parser);
      request.resume();
      reject(error);
    };
    const cutOff = () => refuse(new GezeitError('upload-cut-off', 'The upload was cut off.', 'Send the file again.'));
    parser.on('file', (_field, stream, { filename }) => {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('limit', () => refuse(new GezeitError('file-too-large', `The file is larger than ${mostMB} MB.`, tooLarge)));
      stream.on('error', cutOff);
      stream.on('end', () => (received = { name: filename || 'file', bytes: Buffer.concat(chunks) }));
    });
    parser.on('error', cutOff);
    parser.on('close', () => (received ? resolve(received) : reject(none())));
    request.on('close', () => {
      if (!request.complete) cutOff();
    });
    request.pipe(parser);
  });
}
