import type { Reading } from '@gezeit/contract';
import type { ReadLoose } from './loose-file.js';
import type { GatherFile } from './timed.js';

/** A date that can be read in two ways is asked about once for all files that write it so. */
export function dateQuestions(files: readonly GatherFile[]): Reading['questions'] {
  const asked = files.flatMap(({ table }) => (table.report.dateQuestion ? [{ file: table.file, ...table.report.dateQuestion }] : []));
  const [first] = asked;
  return first
    ? [
        {
          about: 'date-order',
          what: `${first.text}: day first or month first?`,
          choices: first.choices,
          files: asked.map(({ file }) => file),
        },
      ]
    : [];
}

/** Which of two time columns is right is asked once for all files that have both. */
export function clockQuestions(read: readonly ReadLoose[]): Reading['questions'] {
  const pairs = new Map<string, { choices: [string, string]; files: string[] }>();
  for (const { report, clocks } of read)
    if (clocks) {
      const key = JSON.stringify(clocks);
      const pair = pairs.get(key) ?? { choices: clocks, files: [] };
      pair.files.push(report.file);
      pairs.set(key, pair);
    }
  return [...pairs.values()].map(({ choices, files }) => ({
    about: 'which-clock',
    what: `Two time columns of ${files.length === 1 ? files[0]!.split('/').pop() : `${files.length} files`} contradict each other: which one is right?`,
    choices,
    files,
  }));
}
