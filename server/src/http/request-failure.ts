import type { Logger } from 'pino';

/** What Node says where whoever asked went away before the whole answer was there: a page that was closed or loaded again. */
const ASKER_GONE = new Set(['ERR_STREAM_PREMATURE_CLOSE', 'ECONNRESET', 'ECONNABORTED', 'EPIPE']);

/** Logs what a request has met: a fault of ours as one, that somebody has left as what happens every day. */
export function logRequestFailure(log: Logger, error: Error & { code?: string }): void {
  if (error.code && ASKER_GONE.has(error.code)) log.debug({ code: error.code }, 'whoever asked has gone');
  else log.error({ err: error }, 'request failed');
}
