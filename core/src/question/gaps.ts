import { CONDITION_ITEMS, type Bundle, type ConditionItem } from '@gezeit/contract';
import { isTimeZone } from '../units/time-zone.js';
import { UNNAMED_CAR, UNNAMED_CELL } from './defaults.js';

/** Something that a later step needs and that is not there yet. */
export interface Gap {
  step: 'question' | 'bench';
  field: string;
  text: string;
}

const FIELD_GAPS: Record<string, string> = {
  bandRpm: 'The band still holds a default: Verdict would judge over it.',
  smallestGainPct: 'The smallest difference that matters still holds a default: Plan and Verdict measure against it.',
  correction: 'The weather correction still holds the proposal: Verdict would use it.',
};

/** Words of the condition check, as asked before the first pull. */
export const CONDITION_WORDS: Record<ConditionItem, string> = {
  filter: 'Reference filter new or clean',
  box: 'Box free of debris',
  leaks: 'No leaks in the intake',
  clamps: 'Clamps and hose joints tight',
  codes: 'No fault codes',
  oil: 'Oil at level and in date',
  plugs: 'Plugs in order',
  tyres: 'Tyres in order, at pressure',
};

/** Everything that is open on Question and Bench, in the order of the work. Nothing here blocks saving. */
export function programmeGaps(bundle: Bundle): Gap[] {
  const gaps: Gap[] = [];
  const add = (field: string, text: string, step: Gap['step'] = 'question') => gaps.push({ step, field, text });
  const { programme, vehicle } = bundle;
  const cells = bundle.cells ?? (bundle.cell ? [bundle.cell] : []);
  if (programme.question.trim() === '') add('question', 'The question is not written down: Sheet has nothing to answer.');
  for (const field of programme.unanswered ?? []) add(field, FIELD_GAPS[field] ?? `${field} is not answered.`);
  if (vehicle.name === UNNAMED_CAR) add('vehicle.name', 'The car has no name yet.');
  if (!vehicle.displacementL) add('vehicle.displacementL', 'The displacement is not said: Bench cannot compute the air demand from it.');
  if (vehicle.aspiration !== 'na' && !vehicle.boostControl)
    add('vehicle.boostControl', 'What controls the boost is not said: Verdict cannot level manifold pressure.');
  if (cells.every(({ name }) => name === UNNAMED_CELL)) add('cell.name', 'No cell is chosen: Day needs one.');
  for (const { timeZone } of cells)
    if (timeZone && !isTimeZone(timeZone)) add('cell.timeZone', `“${timeZone}” is no time zone: moments of the day may be hours off.`);
  const setups = bundle.setups.filter(({ archived }) => !archived);
  if (setups.every(({ parts }) => parts.length === 0)) add('setups.parts', 'The setups name no parts: what differs cannot be told.');
  if (!setups.some(({ reference }) => reference)) add('setups.reference', 'No setup is the reference: nothing can be compared.');
  if (setups.every(({ reference }) => reference)) add('setups.candidate', 'There is nothing to compare with the reference: add a setup.');
  const answered = new Map((bundle.condition ?? []).map((entry) => [entry.item, entry.state]));
  const open = CONDITION_ITEMS.filter((item) => !answered.has(item));
  if (open.length > 0) add('condition', `Condition before the first pull: ${open.length} of ${CONDITION_ITEMS.length} not answered.`);
  const bad = CONDITION_ITEMS.filter((item) => answered.get(item) === 'not-good');
  if (bad.length > 0)
    add(
      'condition',
      `Not in order: ${bad.map((item) => CONDITION_WORDS[item].toLowerCase()).join('; ')}. A poor reference flatters the new part.`,
    );
  const paths = setups.filter(({ path }) => path?.length);
  if (paths.length === 1) add('path', `Only ${paths[0]!.id} has its path: the budget has nothing to compare with.`, 'bench');
  return gaps;
}
