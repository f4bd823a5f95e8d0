import { MessageChannel } from 'node:worker_threads';

/** Less than this is left to the collector, bytes. */
const LARGE_BYTES = 4 * 1024 * 1024;

/**
 * Frees the memory of a large file's bytes now, which nobody may look at after that: the collector waits, and they are as much as all that was made of
 * them. What is handed to a port that is closed is gone.
 */
export function letGo(bytes: Uint8Array): void {
  const { buffer } = bytes;
  if (!(buffer instanceof ArrayBuffer) || buffer.byteLength < LARGE_BYTES || bytes.byteLength < buffer.byteLength) return;
  const { port1, port2 } = new MessageChannel();
  port2.close();
  port1.postMessage(null, [buffer]);
  port1.close();
}
