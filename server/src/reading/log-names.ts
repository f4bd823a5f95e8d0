import { basename } from 'node:path';
import { safePath } from '../bundle/bundle-files.js';

/** Names below `logs/`: the base name where no other file has it, else with its folder. */
export function logNames(files: readonly string[]): Map<string, string> {
  const bases = files.map((file) => basename(file).toLowerCase());
  const taken = new Set<string>();
  return new Map(
    files.map((file) => {
      const isAlone = bases.filter((base) => base === basename(file).toLowerCase()).length === 1;
      const wanted = safePath(isAlone ? basename(file) : file) ?? 'log';
      let name = `logs/${wanted}`;
      for (let i = 2; taken.has(name.toLowerCase()); i += 1) name = `logs/${i}/${wanted}`;
      taken.add(name.toLowerCase());
      return [file, name];
    }),
  );
}
