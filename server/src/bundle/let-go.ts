import { MessageChannel } from 'node:worker_threads';

/** Less than this is left to the collector, bytes. */
const LARGE_BYTES = 1024 * 1024;

/** What is handed to a port that has been closed is gone at once. */
const { port1: closed } = new MessageChannel();
closed.close();

/**
 * Frees the memory of a large file, or of a column of it, now, which nobody may look at after that: the collector waits, and it is as much as all that is
 * made of it.
 */
export function letGo({ buffer, byteLength }: ArrayBufferView): void {
  if (buffer instanceof ArrayBuffer && byteLength >= LARGE_BYTES && buffer.byteLength < 2 * byteLength) closed.postMessage(null, [buffer]);
}
