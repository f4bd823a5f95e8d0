const PARTS: Readonly<Record<string, string>> = {
  programme: 'the question, its terms or claims',
  vehicle: 'the car',
  cells: 'the cell',
  setups: 'setups and parts',
  pulls: 'pulls, or what is left out',
  condition: 'the condition check',
  days: 'what is said of the days',
  assumptions: 'assumptions',
  channels: 'what columns are taken for',
};

/** An input of an answer, by its path in a bundle, in words. */
export function inputWord(path: string): string {
  const [, part] = /^gezeit\.json#(.+)$/.exec(path) ?? [];
  if (part) return PARTS[part] ?? part;
  const [, evidence] = /^evidence\/(.+)\.json$/.exec(path) ?? [];
  return evidence ? `the bench’s result ${evidence}` : `the log ${path}`;
}
