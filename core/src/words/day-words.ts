import type { PlanGate, Quantity } from '@gezeit/contract';
import { gateQuantity } from '../channels/gate-quantity.js';
import type { DayState, DayStep } from '../day/day-state.js';
import type { GateView } from '../day/gates.js';
import type { Instruction } from '../day/instruction.js';
import type { ReadyMoment, WaitReason } from '../day/ready-time.js';
import type { Formatter } from '../format/formatter.js';
import { gateTargetText, gateUnitText, gateValueText, minutesText, stoppedText } from './rule-words.js';
import { signed } from '../format/values.js';

const ROUND_ABOVE_S = 150;

/** How long to wait: to the second where it is known so well, else as a range. */
export function waitText(ready: ReadyMoment): string {
  if (ready.kind === 'unknown') return 'Wait';
  if (ready.kind === 'unreachable') return 'Not ready';
  const { lowS, midS, highS } = ready;
  if (highS - lowS < 12) return `Wait ${minutesText(midS)}`;
  if (midS < ROUND_ABOVE_S) return `Wait ${roundTo(lowS, 10)}–${roundTo(highS, 10)} s`;
  const [low, high] = [Math.floor(lowS / 60), Math.ceil(highS / 60)];
  return `Wait ${low}–${high} min`;
}
const roundTo = (value: number, step: number) => Math.max(0, Math.round(value / step) * step);

/** Why no moment can be named. */
const WAIT_REASONS: Record<WaitReason, string> = {
  'below-surroundings': 'the gate lies below the air around',
  'too-little-logged': 'too little is logged since the last pull',
  'ends-short': 'on this course it ends short of the gate',
  'too-early': 'too early to say whether it gets there',
  'not-clear-yet': 'it is not clear yet whether it gets there',
  'course-silent': 'the course does not say yet',
  'waiting-alone': 'waiting alone does not meet it',
};

const STEP_WORDS: Record<DayStep['kind'], string> = {
  measured: 'Measure',
  conditioning: 'Condition',
  tuning: 'Tune',
  steady: 'Steady',
  drive: 'Drive',
};

/** The one thing to do, in a word or two. */
export function titleOf({ kind, step, ready }: Instruction, running: string | null): string {
  switch (kind) {
    case 'plan':
      return 'Plan first';
    case 'begin':
      return 'Begin';
    case 'stop':
      return 'Stop';
    case 'driving':
      return `Driving ${running ?? ''}`.trim();
    case 'swapping':
      return 'Swapping';
    case 'away':
      return 'Standing by';
    case 'check':
      return 'Check first';
    case 'swap':
      return `Swap to ${step!.setup}`;
    case 'wait':
      return ready ? waitText(ready) : 'Wait';
    case 'settle':
      return 'Settle first';
    case 'pull':
      return step!.kind === 'measured' ? 'Pull now' : STEP_WORDS[step!.kind];
    case 'finish':
      return 'Put back';
    case 'ended':
      return 'Day ended';
  }
}

/** How fast a gate's value moves: "−2.1 K/min". */
export function trendText({ gate, perMin }: GateView, format: Formatter): string | null {
  if (perMin === null || gate.unit === 'min') return null;
  if (gate.unit !== '°C' && gate.unit !== 'K') return null;
  const value = format.shownValue(perMin, 'K', true);
  return Math.abs(value) < 0.05 ? 'steady' : `${signed(value, 1)} ${format.shownUnit('K', true)}/min`;
}

/** Air of which a gate holds how far it is above ambient; its sign says that it is above something. */
const AIR_WORDS: Partial<Record<Quantity, string>> = {
  intakeAirTemperature: 'Intake air',
  inletTemperature: 'Inlet air',
  coolerOutTemperature: 'Charge air',
};

function gateName(gate: PlanGate): string {
  const source = gateQuantity(gate);
  return (source?.aboveAmbient ? AIR_WORDS[source.quantity] : undefined) ?? gate.label;
}

/** "Coolant 94 °C, Intake air +19 K". */
export function gateListText(views: readonly GateView[], format: Formatter): string {
  return views
    .map((view) => {
      const name = gateName(view.gate);
      if (view.value === null) return `${name}: no reading`;
      if (view.gate.unit === 'min') return `${minutesText(view.value * 60)} since the last pull`;
      return `${name} ${gateValueText(view, format)} ${gateUnitText(view.gate, format)}`;
    })
    .join(', ');
}

/** Why, in one line of about ninety letters. */
export function reasonOf(
  instruction: Instruction,
  state: DayState,
  format: Formatter,
  clock: (ms: number) => string,
  nowMs: number,
  planned: number,
): string {
  const { kind, step, holding, wished, ready } = instruction;
  switch (kind) {
    case 'plan':
      return 'No pull is planned. The order of the day is made on Plan.';
    case 'begin':
      return `${planned} pulls are planned; more and others are allowed.`;
    case 'stop':
      return `${stoppedText(state.stop!, format)}. Find the reason, then acknowledge.`;
    case 'driving':
      return `Setup ${state.running!.setup}, ${state.running!.kind}. End it when the driver lifts.`;
    case 'swapping':
      return `To ${state.swapping!.to}, ${minutesText((nowMs - state.swapping!.sinceMs) / 1000)} so far. Mind hot parts, fuel lines, belts.`;
    case 'away':
      return `Off the rollers since ${clock(state.away!.sinceMs)}${state.away!.other ? `: “${state.away!.other}” is on` : ''}. Nothing is taken from the devices.`;
    case 'check':
      return 'Safety items before the day are not all ticked.';
    case 'swap':
      return 'Engine off. A timer and a checklist go with it.';
    case 'wait': {
      const list = gateListText(holding, format);
      if (ready?.kind === 'range') return `${list}: ready ${readyClock(ready, clock, nowMs)}.`;
      if (ready?.kind === 'unreachable') {
        const short = holding.find((view) => view.ready?.kind === 'unreachable') ?? holding[0]!;
        return `${list}: ${WAIT_REASONS[ready.why]}, ends near ${gateValueText({ ...short, value: ready.endsAt }, format)} ${gateUnitText(short.gate, format)}.`;
      }
      return `${list}: ${holding.some(({ value }) => value === null) ? 'type it' : ready ? WAIT_REASONS[ready.why] : 'not known yet'}.`;
    }
    case 'settle': {
      const [overrun] = holding;
      return `${minutesText((overrun?.value ?? 0) * 60)} since the last pull, asked ${overrun ? gateTargetText(overrun.gate, format) : ''} min: a conditioning pull first.`;
    }
    case 'pull':
      return wished.length > 0
        ? `${step!.setup} ready, though ${gateListText(wished, format)}.`
        : `Setup ${step!.setup}: every gate is met.`;
    case 'finish':
      return 'Every planned pull is driven. Put the car back, or drive on.';
    case 'ended':
      return state.endReason ? `Closed with items open: ${state.endReason}.` : 'Everything is put back. The answer stands on Verdict.';
  }
}

function readyClock({ lowS, midS, highS }: Extract<ReadyMoment, { kind: 'range' }>, clock: (ms: number) => string, nowMs: number): string {
  if (highS - lowS < 60) return `about ${clock(nowMs + midS * 1000)}`;
  return `between ${clock(nowMs + lowS * 1000)} and ${clock(nowMs + highS * 1000)}`;
}

/** The next steps in words: conditioning pulls are told apart, swaps stand where they come. */
export interface NextStep {
  place: number;
  text: string;
  setup: string;
}

export function nextSteps(instruction: Instruction, remaining: readonly DayStep[], fitted: string | null, count: number): NextStep[] {
  const list: NextStep[] = [];
  let on = fitted;
  for (const step of remaining) {
    if (step.setup !== on) list.push({ place: step.place, text: 'Swap to', setup: step.setup });
    on = step.setup;
    list.push({
      place: step.place,
      text: STEP_WORDS[step.kind],
      setup: step.setup,
    });
  }
  // What is to be done now is said already.
  const first =
    instruction.kind === 'swap' || instruction.kind === 'pull' || instruction.kind === 'wait' || instruction.kind === 'settle' ? 1 : 0;
  return list.slice(first, first + count);
}
