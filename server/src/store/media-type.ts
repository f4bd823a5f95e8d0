import { extname } from 'node:path';

/** Types that a browser may show in the page; everything else is only saved. */
const SHOWN: Record<string, string> = {
  '.png': 'image/png',
  '.jpg': 'image/jpeg',
  '.jpeg': 'image/jpeg',
  '.webp': 'image/webp',
  '.gif': 'image/gif',
};

/** Media type of a file by its name's ending. */
export function mediaTypeOf(file: string): string {
  return SHOWN[extname(file).toLowerCase()] ?? 'application/octet-stream';
}
