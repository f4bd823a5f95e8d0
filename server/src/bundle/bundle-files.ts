import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join, relative, sep } from 'node:path';
import { LIMITS } from '@gezeit/contract';
import { GezeitError } from '@gezeit/core';
import { letGo } from './let-go.js';
import { sha256, sha256OfFile } from './sha256.js';

/** The files of a bundle by their path in it. They stand on a disk and are read one at a time: together they may be large. A few may be held. */
export class BundleFiles {
  readonly #places: ReadonlyMap<string, string | Uint8Array>;

  constructor(places: ReadonlyMap<string, string | Uint8Array>) {
    this.#places = places;
  }

  /** The files of a folder. @throws GezeitError `too-large`. */
  static ofFolder(root: string): BundleFiles {
    const places = new Map<string, string>();
    let bytes = 0;
    for (const entry of readdirSync(root, { recursive: true, withFileTypes: true })) {
      if (!entry.isFile()) continue;
      const path = join(entry.parentPath, entry.name);
      places.set(relative(root, path).split(sep).join('/'), path);
      bytes += statSync(path).size;
      refuseTooLarge(places.size, bytes);
    }
    return new BundleFiles(places);
  }

  get names(): string[] {
    return [...this.#places.keys()];
  }

  has(name: string): boolean {
    return this.#places.has(name);
  }

  size(name: string): number {
    const place = this.#places.get(name)!;
    return typeof place === 'string' ? statSync(place).size : place.length;
  }

  read(name: string): Uint8Array {
    const place = this.#places.get(name)!;
    return typeof place === 'string' ? readFileSync(place) : place;
  }

  /** SHA-256 of a file, hexadecimal: piece by piece, so that no file has to be held for it. */
  digest(name: string): string {
    const place = this.#places.get(name)!;
    return typeof place === 'string' ? sha256OfFile(place) : sha256(place);
  }

  /** The bytes of a file that was read are not looked at any more. */
  letGo(name: string, bytes: Uint8Array): void {
    if (typeof this.#places.get(name) === 'string') letGo(bytes);
  }

  /** These and some more, which are held. */
  with(more: ReadonlyMap<string, Uint8Array>): BundleFiles {
    return new BundleFiles(new Map([...this.#places, ...more]));
  }

  /** Those below a folder, by their path in that. */
  below(prefix: string): BundleFiles {
    return new BundleFiles(
      new Map([...this.#places].filter(([name]) => name.startsWith(prefix)).map(([name, place]) => [name.slice(prefix.length), place])),
    );
  }
}

/** @throws GezeitError `too-large` where so many files of so many bytes are more than a bundle may hold. */
export function refuseTooLarge(files: number, bytes: number): void {
  const todo = 'Bring fewer files, or logs with fewer channels; several days can be several programmes.';
  if (files > LIMITS.bundleFiles)
    throw new GezeitError('too-large', `A bundle may hold ${LIMITS.bundleFiles} files; these are more.`, todo);
  if (bytes > LIMITS.bundleBytes)
    throw new GezeitError('too-large', `Unpacked, a bundle may hold ${LIMITS.bundleBytes / 1024 ** 2} MB; this is more.`, todo);
}

/** A path inside a bundle, with "/"; null where it would lead out of it or is none that every system can keep. */
export function safePath(path: string): string | null {
  const parts = path.replaceAll('\\', '/').split('/');
  if (parts[0] === '.') parts.shift();
  const isKept = (part: string) =>
    part !== '' && part !== '.' && part !== '..' && Buffer.byteLength(part) <= LIMITS.nameLength && !hasControls(part);
  const plain = parts.join('/');
  return parts.every(isKept) && plain.length <= LIMITS.pathLength && !/^[A-Za-z]:/.test(plain) ? plain : null;
}

const FIRST_PRINTED = 0x20;
const hasControls = (text: string) => [...text].some((letter) => letter.codePointAt(0)! < FIRST_PRINTED);
