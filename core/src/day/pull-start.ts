import type { Bundle, DayHappening } from '@gezeit/contract';
import type { DayState } from './day-state.js';
import type { CellNow } from './gates.js';
import type { Instruction } from './instruction.js';
import { weatherNow } from './weather-now.js';

type PullStarted = Extract<DayHappening, { kind: 'pull-started' }>;

/** What is stamped on a pull that begins: the fitted setup, the step that it is, gates, start and weather of this moment. */
export function pullStart(
  state: DayState,
  bundle: Bundle,
  cell: CellNow,
  instruction: Instruction,
  anyway: string | null,
  cause: PullStarted['cause'],
): PullStarted {
  const step = instruction.step?.setup === state.fitted ? instruction.step : null;
  const setup = bundle.setups.find(({ id }) => id === state.fitted);
  const read = (quantity: string) => cell.readings.find((reading) => reading.quantity === quantity)?.value ?? null;
  const typed = (gate: string) => instruction.gates.find((view) => view.gate.id === gate)?.value ?? null;
  return {
    kind: 'pull-started',
    pull: nextPullId(bundle, state),
    setup: state.fitted ?? bundle.setups[0]!.id,
    mapVersion: setup?.state.tune == null ? null : String(setup.state.tune),
    pullKind: step?.kind ?? 'measured',
    place: step?.place ?? null,
    stamp: Object.fromEntries(instruction.gates.map(({ gate, value }) => [gate.id, value])),
    weather: weatherNow(state, cell.readings).weather,
    start: {
      coolantC: read('coolantTemperature') ?? typed('coolant'),
      intakeAirC: read('intakeAirTemperature'),
      oilC: read('oilTemperature') ?? typed('oil'),
    },
    anyway,
    cause,
  };
}

/** Whether the programme's correction needs weather that a pull begun now would not carry. */
export function lacksWeather(bundle: Bundle, state: DayState, cell: CellNow): boolean {
  return bundle.programme.correction !== 'NONE' && Object.values(weatherNow(state, cell.readings).weather).includes(null);
}

/** The first free number among the programme's pulls. */
export function nextPullId(bundle: Pick<Bundle, 'pulls'>, state: Pick<DayState, 'pulls'>): string {
  const ids = new Set([...bundle.pulls, ...state.pulls].map(({ id }) => id));
  let number = ids.size + 1;
  const named = () => `p${String(number).padStart(2, '0')}`;
  while (ids.has(named())) number += 1;
  return named();
}
