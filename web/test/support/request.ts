import { Agent, request as httpRequest } from 'node:http';

/** One connection for request after request: a page opens few, and opening one costs a test more than most answers do. */
const agent = new Agent({ keepAlive: true });

/** What a server answered, whole. */
export interface Answered {
  status: number;
  headers: [string, string][];
  body: Uint8Array<ArrayBuffer>;
}

/**
 * Asks as the page's own fetch would, by Node's client: the page's fetch is written in the page's language, down to the parsing of every answer.
 *
 * @throws {DOMException} `AbortError` where the signal says so before the answer is there.
 * @throws {TypeError} where the server cannot be reached.
 */
export function request(address: URL, asked: Omit<RequestInit, 'body'> & { body?: string }): Promise<Answered> {
  const { method = 'GET', headers, body, signal } = asked;
  return new Promise((resolve, reject) => {
    const aborted = () => reject(new DOMException('aborted', 'AbortError'));
    if (signal?.aborted) return aborted();
    const sent = httpRequest(address, { agent, method, headers: Object.fromEntries(new Headers(headers)) }, (answer) => {
      const parts: Buffer[] = [];
      answer.on('data', (part: Buffer) => parts.push(part));
      answer.on('error', failed);
      answer.on('end', () => {
        signal?.removeEventListener('abort', stop);
        resolve({
          status: answer.statusCode ?? 0,
          headers: Object.entries(answer.headers).map(([name, value]) => [name, String(value)]),
          body: new Uint8Array(Buffer.concat(parts)),
        });
      });
    });
    const failed = (error: Error & { code?: string }) => {
      if (signal?.aborted) aborted();
      // The server has closed a connection that it had kept for a while: nothing of this request has reached it.
      else if (sent.reusedSocket && error.code === 'ECONNRESET') resolve(request(address, asked));
      else reject(new TypeError(error.message));
    };
    const stop = () => sent.destroy();
    signal?.addEventListener('abort', stop, { once: true });
    sent.on('error', failed);
    sent.end(body);
  });
}
