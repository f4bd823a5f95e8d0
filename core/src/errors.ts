/** Where in the input a problem sits. Rows and columns count from 1, as an editor shows them. */
export interface Place {
  file?: string;
  row?: number;
  column?: string;
}

/** A refusal with a reason, a place and a next step; its text is fit for users. */
export class GezeitError extends Error {
  readonly code: string;
  readonly nextStep: string;
  readonly place: Place;

  constructor(code: string, message: string, nextStep: string, place: Place = {}) {
    super(message);
    this.name = 'GezeitError';
    this.code = code;
    this.nextStep = nextStep;
    this.place = place;
  }

  /** One line that names the place, the problem and what to do. */
  get line(): string {
    const { file, row, column } = this.place;
    const parts = [file, row === undefined ? undefined : `row ${row}`, column === undefined ? undefined : `column ${column}`];
    const where = parts.filter((part) => part !== undefined).join(', ');
    return `${where ? `${where}: ` : ''}${this.message} ${this.nextStep}`;
  }
}

/** An input that is impossible for a formula. */
export function impossible(name: string, rule: string, value: number): GezeitError {
  return new GezeitError('impossible-input', `${name}: ${rule}; got ${value}.`, 'Check the value and its unit.');
}
