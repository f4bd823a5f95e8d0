/** Where in the input a problem sits. Rows and columns count from 1, as an editor shows them. */
export interface Place {
  file?: string;
  row?: number;
  column?: string;
}

/**
 * Why something is refused: it is wrong in itself, is not there, does not fit how things stand, nobody says who asks, who asks may not, it is
 * asked too often, the disk has no room, or it cannot be done just now.
 */
export type RefusalNature = 'invalid' | 'missing' | 'conflict' | 'unnamed' | 'forbidden' | 'too-often' | 'no-room' | 'unavailable';

const LONGEST = 400;
/** What is quoted from a file may hold line ends and be long: a refusal is one line that can be read. */
function oneLine(text: string): string {
  const line = text.replace(/[\s\p{Cc}]+/gu, ' ').trim();
  return line.length > LONGEST ? `${line.slice(0, LONGEST)}…` : line;
}

/** A refusal with a reason, a place and a next step; its text is fit for users. */
export class GezeitError extends Error {
  readonly code: string;
  readonly nextStep: string;
  readonly place: Place;
  readonly nature: RefusalNature;

  constructor(code: string, message: string, nextStep: string, place: Place = {}, nature: RefusalNature = 'invalid') {
    super(oneLine(message));
    this.name = 'GezeitError';
    this.code = code;
    this.nextStep = nextStep;
    this.place = place;
    this.nature = nature;
  }

  /** One line that names the place, the problem and what to do. */
  get line(): string {
    const { file, row, column } = this.place;
    const parts = [file, row === undefined ? undefined : `row ${row}`, column === undefined ? undefined : `column ${column}`];
    const where = oneLine(parts.filter((part) => part !== undefined).join(', '));
    return `${where ? `${where}: ` : ''}${this.message} ${this.nextStep}`;
  }
}

/** A refusal because something is not there. */
export function missing(message: string, nextStep: string, place: Place = {}): GezeitError {
  return new GezeitError('not-found', message, nextStep, place, 'missing');
}

/** A refusal because of how things stand now: asked at another time it may well be granted. */
export function conflict(code: string, message: string, nextStep: string): GezeitError {
  return new GezeitError(code, message, nextStep, {}, 'conflict');
}

/** An input that is impossible for a formula. */
export function impossible(name: string, rule: string, value: number): GezeitError {
  return new GezeitError('impossible-input', `${name}: ${rule}; got ${value}.`, 'Check the value and its unit.');
}
