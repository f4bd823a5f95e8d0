import { sweepKey, type ReadFile, type ReadMember, type ReadPull } from '@gezeit/contract';

/** A sweep of a file as it is put into a pull. */
export interface Sweep {
  file: string;
  key: string;
  /** The file shows no sweep: it is put there as a whole. */
  wholeFile: boolean;
  /** What tells it from the file's other sweeps. */
  words: string;
}

/** The name of a file without its folders. */
export const shortName = (file: string): string => file.split('/').pop()!;

/** A pull's file as a sweep that can be put elsewhere. */
export const sweepOf = (member: ReadMember, files: readonly ReadFile[]): Sweep => ({
  file: member.file,
  key: sweepKey(member),
  wholeFile: files.find(({ file }) => file === member.file)?.sweeps.length === 0,
  words: shortName(member.file),
});

/** The sweeps of a file that no pull has. */
export function freeSweeps({ file, sweeps, columns }: ReadFile, pulls: readonly ReadPull[]): Sweep[] {
  if (columns.length === 0) return [];
  const taken = new Set(pulls.flatMap(({ members }) => members.filter((member) => member.file === file).map(sweepKey)));
  if (sweeps.length === 0) return taken.size > 0 ? [] : [{ file, key: `${file}#`, wholeFile: true, words: shortName(file) }];
  return sweeps
    .filter(({ recording, startS }) => !taken.has(sweepKey({ file, recording, startS })))
    .map(({ recording, startS }) => ({
      file,
      key: sweepKey({ file, recording, startS }),
      wholeFile: false,
      words: sweeps.length === 1 ? shortName(file) : `${shortName(file)} at ${startS.toFixed(0)} s`,
    }));
}

/** What the button that asks for a sweep's pull says, and how it is called: one of several is told apart by its name. */
export const sayPull = ({ words }: Sweep, of: number): { label: string; 'aria-label': string } =>
  of === 1 ? { label: 'Say its pull', 'aria-label': `Say its pull: ${words}` } : { label: words, 'aria-label': `${words}: say its pull` };
