import type { ReadReason } from '@gezeit/contract';
import type { TimeNote } from './time-axis.js';
import { quantityWords } from '../channels/quantity-words.js';
import type { Recognition } from '../channels/recognition.js';
import { DEFAULT_AFR_STOICH } from '../channels/weigh.js';

/** Why a column is taken for something, in words. */
function reasonText(reason: ReadReason): string {
  switch (reason.code) {
    case 'hand':
      return 'said by hand';
    case 'ignored':
      return 'left out by hand';
    case 'name':
      return 'its name';
    case 'unit':
      return 'its unit';
    case 'values':
      return 'its values lie where they would';
    case 'shape':
      return 'its values run as they would';
    case 'columns':
      return 'the other columns of the file';
    case 'afr':
      return `divided by ${DEFAULT_AFR_STOICH}, the usual setting of the device (assumption)`;
    case 'absolute':
      return `taken as absolute: ${ABSOLUTE_BY[reason.by]}`;
    case 'gauge':
      return 'taken as against ambient, by its values';
    case 'clock':
      return 'its cells are times';
    case 'unit-judged':
      return `no unit given: taken as ${reason.unit} by its values${reason.rivals.length > 0 ? `, not ${reason.rivals.join(' or ')}` : ''}`;
    case 'unit-unknown':
      return `its unit "${reason.text}" is not known`;
    case 'unit-unsure':
      return `no unit given, and the values would do in ${reason.units.join(', ')}`;
    case 'unit-apart':
      return `${reason.unit} does not fit that`;
    case 'unsure':
      return 'not sure enough';
    case 'copy':
      return `the values of "${reason.of}"`;
    case 'other-used':
      return `"${reason.other}" is used`;
    case 'combined':
      return `in the ${reason.how} with "${reason.with}"`;
  }
}

const ABSOLUTE_BY = { stated: 'it says so', values: 'never near zero', 'shut-throttle': 'above zero with the throttle shut' } as const;

/** Why a column is taken for something, or for nothing, in words. */
export const reasonsText = (reasons: readonly ReadReason[]): string => reasons.map(reasonText).join('; ');

/** What a column looks like that is not taken for it, and why not; null where there is nothing to say. */
export function doubtText({ rivals, because }: Pick<Recognition, 'rivals' | 'because'>): string | null {
  const why = reasonsText(because);
  if (!why) return null;
  return rivals[0] ? `looks like ${quantityWords(rivals[0].quantity)}: ${why}` : why;
}

/** What was assumed or mended in a file's time, and what can be done about it. */
export function timeNoteText(note: TimeNote): { text: string; todo: string } {
  switch (note.code) {
    case 'unit-assumed': {
      const by = {
        steps: `since its steps are ${note.step} apart`,
        sweep: 'since a sweep of the engine would else be too fast or too slow',
        usual: 'the usual one; nothing else in the file decides it',
      };
      return {
        text: `"${note.column}" names no unit: taken as ${note.unit}, ${by[note.by]}.`,
        todo: 'Say the unit of the column if it is another.',
      };
    }
    case 'kind-judged': {
      const kinds = {
        epoch: 'time since 1970',
        serial: 'days as a spreadsheet counts them',
        clock: 'shares of a day, as a spreadsheet keeps a clock',
        elapsed: 'seconds',
        dateTime: 'dates',
      };
      return {
        text: `"${note.column}" is read as ${kinds[note.kind]}, by its size.`,
        todo: 'Say the unit of the column if it is another.',
      };
    }
    case 'counts-rows':
      return {
        text: `"${note.column}" rises by one from row to row, and may only count them: read as seconds, no sweep of the engine is quick enough for full throttle.`,
        todo: 'Say which column is the time, or export the log with one.',
      };
    case 'sorted':
      return {
        text: `${note.samples} ${note.samples === 1 ? 'sample stood' : 'samples stood'} out of order in "${note.column}" and ${note.samples === 1 ? 'was' : 'were'} sorted by time.`,
        todo: 'Nothing.',
      };
    case 'restarted':
      return {
        text: `The clock "${note.column}" starts again: the file holds ${note.recordings} recordings.`,
        todo: 'Nothing: each is read by itself.',
      };
    case 'spread':
      return {
        text: `"${note.column}" is coarser than the samples: ${note.stamps} equal stamps were spread evenly.`,
        todo: 'Log a finer time if there is one.',
      };
    case 'without-time':
      return { text: `${note.rows} rows have no time and are left out.`, todo: 'Nothing.' };
  }
}
