import { resolve } from 'node:path';

/** A path as the caller meant it: relative to the folder in which the command was typed, which npm keeps in INIT_CWD. */
export function callerPath(path: string): string {
  return resolve(process.env['INIT_CWD'] ?? process.cwd(), path);
}
