import type { PlanGate } from '@gezeit/contract';
import type { DayState, DayStep } from './day-state.js';
import { gateViews, type CellNow, type GateView } from './gates.js';
import type { ReadyMoment } from './ready-time.js';

/** The one thing to do now. What it says in words is the screen's, in the units that are chosen there. */
export interface Instruction {
  kind: 'plan' | 'begin' | 'stop' | 'driving' | 'swapping' | 'away' | 'check' | 'swap' | 'wait' | 'settle' | 'pull' | 'finish' | 'ended';
  /** The step that comes next; null where none is left. */
  step: DayStep | null;
  gates: GateView[];
  /** Gates that hold the pull back: all that must be met and are not. */
  holding: GateView[];
  /** When all of them are met; null where nothing is waited for. */
  ready: ReadyMoment | null;
  /** Gates that should be met and are not: told, not waited for. */
  wished: GateView[];
}

/** Gates that a pull is held to: a conditioning or tuning pull only to the car's own temperatures, a measured one to all. */
export function gatesFor(gates: readonly PlanGate[], kind: DayStep['kind']): PlanGate[] {
  return kind === 'measured' ? [...gates] : gates.filter(({ unit }) => unit === '°C');
}

/** What to do now. @param checked whether everything that safety asks before the first pull is ticked. */
export function instruct(state: DayState, gates: readonly PlanGate[], cell: CellNow, checked: boolean): Instruction {
  const step = state.remaining[0] ?? null;
  const views = gateViews(gates, state, cell);
  const base = { step, gates: views, holding: [], ready: null, wished: [] };
  if (state.day === null) return { ...base, kind: state.planned.length === 0 ? 'plan' : 'begin' };
  if (state.endedMs !== null) return { ...base, kind: 'ended' };
  if (state.stop) return { ...base, kind: 'stop' };
  if (state.running) return { ...base, kind: 'driving' };
  if (state.swapping) return { ...base, kind: 'swapping' };
  if (state.away) return { ...base, kind: 'away' };
  if (!checked) return { ...base, kind: 'check' };
  if (!step) return { ...base, kind: 'finish' };
  if (step.setup !== state.fitted) return { ...base, kind: 'swap' };
  const held = new Set(gatesFor(gates, step.kind).map(({ id }) => id));
  const open = views.filter(({ gate, standing }) => held.has(gate.id) && standing !== 'met');
  // A rest that was overrun comes back by no waiting: a conditioning pull begins it anew.
  const overrun = open.filter(({ gate, standing }) => gate.must && gate.unit === 'min' && standing === 'passed');
  const holding = open.filter((view) => view.gate.must && !overrun.includes(view));
  const wished = open.filter(({ gate }) => !gate.must);
  if (overrun.length > 0) return { ...base, kind: 'settle', holding: [...overrun, ...holding], wished };
  if (holding.length === 0) return { ...base, kind: 'pull', wished };
  return { ...base, kind: 'wait', holding, wished, ready: allReady(holding) };
}

/** The moment at which the last of several gates is met. */
function allReady(holding: readonly GateView[]): ReadyMoment {
  const moments = holding.map(({ ready }): ReadyMoment => ready ?? { kind: 'unknown', why: 'waiting-alone' });
  const never = moments.find(({ kind }) => kind === 'unreachable');
  if (never) return never;
  const unknown = moments.find(({ kind }) => kind === 'unknown');
  if (unknown) return unknown;
  const ranges = moments as Extract<ReadyMoment, { kind: 'range' }>[];
  const last = (pick: (range: (typeof ranges)[number]) => number) => Math.max(...ranges.map(pick));
  return { kind: 'range', lowS: last(({ lowS }) => lowS), midS: last(({ midS }) => midS), highS: last(({ highS }) => highS) };
}
