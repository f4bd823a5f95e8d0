import BenchPaper from './BenchPaper.vue';
import EverySetupPapers from './EverySetupPapers.vue';
import PublicPaper from './PublicPaper.vue';
import SheetPaper from './SheetPaper.vue';
import SideBySidePaper from './SideBySidePaper.vue';

/** For whom a sheet is: what it is called, the paper that shows it, what its files are named by, and whether it is of all setups at once. */
export const SHEET_VERSIONS = {
  validation: { title: 'validation sheet', paper: SheetPaper, file: 'sheet', ofAll: false },
  every: { title: 'sheets of every setup', paper: EverySetupPapers, file: 'sheets', ofAll: true },
  beside: { title: 'setups beside each other', paper: SideBySidePaper, file: 'beside', ofAll: true },
  bench: { title: 'found on the bench', paper: BenchPaper, file: 'bench', ofAll: true },
  public: { title: 'public short version', paper: PublicPaper, file: 'public', ofAll: false },
} as const;
export type SheetVersion = keyof typeof SHEET_VERSIONS;

/** Their titles, as they are chosen among. */
export const SHEET_VERSION_TITLES = Object.fromEntries(Object.entries(SHEET_VERSIONS).map(([version, { title }]) => [version, title]));

/** The version that an address names; the validation sheet where it names none. */
export const sheetVersionOf = (named: unknown): SheetVersion =>
  Object.keys(SHEET_VERSIONS).find((version): version is SheetVersion => version === named) ?? 'validation';
