import type { LiveTrace } from '@gezeit/contract';
import { fromSi } from '@gezeit/core';
import { plain, type Show } from '../../shared/units/show.js';

/** A channel of the pull as it is drawn beside its power: its course over engine speed, and what to read off it. */
export interface PullChannel {
  label: string;
  unit: string;
  text: string;
  rpm: number[];
  value: number[];
}

const MOST_CHANNELS = 3;

/** What is drawn of a trace, most telling first: how warm the air came in, what it lost on its way, how hard it was pressed in. */
export function pullChannels(trace: LiveTrace, show: Show): PullChannel[] {
  const { temperature, pressure } = show.units;
  const celsius = (value: number) => fromSi(value, temperature);
  const pressed = (value: number) => fromSi(value, pressure);
  const course = (values: number[], digits: number) => `${plain(values[0]!, digits)} → ${plain(values.at(-1)!, digits)}`;
  const most = (values: number[], digits: number) => plain(Math.max(...values), digits);
  const pressureDigits = pressure === 'kPa' ? 1 : pressure === 'inH2O' ? 1 : pressure === 'bar' ? 3 : 2;
  // The two ways of logging where the air comes in: one of them is enough.
  const intake = trace.channels['intakeAirTemperature'] ? 'intakeAirTemperature' : 'inletTemperature';
  const drawn = [
    channel(trace, intake, 'Intake air', temperature, celsius, (values) => course(values, 0)),
    // What stands before the compressor or throttle as gauge pressure is below ambient by what the tract has lost.
    channel(
      trace,
      'inletPressure',
      'Pressure drop',
      pressure,
      (value) => pressed(-value),
      (values) => most(values, pressureDigits),
    ),
    channel(trace, 'manifoldPressure', 'Manifold', pressure, pressed, (values) => most(values, pressureDigits)),
    channel(trace, 'lambda', 'Lambda', '', Number, (values) => course(values, 2)),
    channel(trace, 'ignitionAdvance', 'Ignition', '°', Number, (values) => course(values, 1)),
  ];
  return drawn.filter((entry) => entry !== null).slice(0, MOST_CHANNELS);
}

/** Where the driver lifts, as an index: at the highest engine speed the throttle may be closed already, and what follows is no part of the pull. */
export const liftOf = ({ engineSpeedRpm }: LiveTrace): number => engineSpeedRpm.indexOf(Math.max(...engineSpeedRpm));

function channel(
  trace: LiveTrace,
  quantity: string,
  label: string,
  unit: string,
  shown: (value: number) => number,
  text: (values: number[]) => string,
): PullChannel | null {
  const series = trace.channels[quantity];
  const known = (series ?? []).slice(0, liftOf(trace)).flatMap((value, i) => (value === null ? [] : [[trace.engineSpeedRpm[i]!, value]]));
  if (known.length < 2) return null;
  const value = known.map((point) => shown(point[1]!));
  return { label, unit, text: `${text(value)} ${unit}`.trim(), rpm: known.map((point) => point[0]!), value };
}
