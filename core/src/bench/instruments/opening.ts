import { dryAirDensity } from '../../demand/air-demand.js';
import { areaForVelocity, GUIDE_VELOCITY_MS, ramPressure, sufficientSpeed } from '../../opening/opening-area.js';
import { CIRCLE_POINTS, RECTANGLE_POINTS, TRAVERSE_UNCERTAINTY, traverseFlow } from '../../opening/traverse.js';
import { ambientPressureField, numberField, shareField, temperatureField } from '../fields.js';
import { figure, percentFigure, steps, type Instrument } from '../instrument.js';
import { ratioOfMeans } from '../statistics.js';
import { meanInterval } from '../../numeric/means.js';

const MOST_SPEED_MS = 70;

/** Where to read, as fractions of the side or diameter; empty for one spot. */
const PLACES: Record<string, { points: readonly number[]; of: string }> = {
  spot: { points: [], of: '' },
  rectangle5: { points: RECTANGLE_POINTS[5], of: 'side, in rows and columns' },
  rectangle6: { points: RECTANGLE_POINTS[6], of: 'side, in rows and columns' },
  rectangle7: { points: RECTANGLE_POINTS[7], of: 'side, in rows and columns' },
  circle6: { points: CIRCLE_POINTS[6], of: 'diameter, on two of them' },
  circle10: { points: CIRCLE_POINTS[10], of: 'diameter, on two of them' },
};

export const openingInstrument: Instrument = {
  id: 'opening',
  title: 'Opening and duct',
  question: 'Does the opening pass what the engine asks for, and from which speed on?',
  sections: ['opening', 'duct', 'snorkel'],
  formulas: ['f1', 'f2', 'f3', 'f4'],
  fields: [
    {
      kind: 'choice',
      name: 'places',
      label: 'Read at',
      why: 'The middle alone reads high in a long duct: traverse the opening, or repeat at one fixed spot before and after.',
      choices: {
        spot: 'one fixed spot, repeated',
        rectangle5: 'five points a side',
        rectangle6: 'six points a side',
        rectangle7: 'seven points a side',
        circle6: 'six points on two diameters',
        circle10: 'ten points on two diameters',
      },
      value: 'spot',
    },
    {
      kind: 'list',
      name: 'before',
      label: 'Velocities before',
      unit: 'm/s',
      why: 'Anemometer readings with the stock part: the points of one traverse, or repeats at one fixed spot with the blower fixed.',
      above: 0,
      atMost: 150,
      believable: [0.5, 80],
      atLeastItems: 1,
      value: [8.1, 8.3, 8.2],
    },
    {
      kind: 'list',
      name: 'after',
      label: 'Velocities after',
      unit: 'm/s',
      why: 'The same points, the same blower setting, with the new part. Leave it empty to look at one part only.',
      above: 0,
      atMost: 150,
      believable: [0.5, 80],
      atLeastItems: 0,
      value: [],
    },
    numberField('areaBefore', 'Net area before', 'cm²', 'Free area where the velocities were read.', {
      value: 40e-4,
      atMost: 0.5,
      believable: [3e-4, 0.06],
    }),
    numberField('areaAfter', 'Net area after', 'cm²', 'Free area with the new part.', {
      value: 40e-4,
      atMost: 0.5,
      believable: [3e-4, 0.06],
    }),
    numberField('calibration', 'Calibration factor', '–', 'Of the instrument; a vane head fills a small duct.', {
      value: 1,
      atMost: 2,
      believable: [0.8, 1.2],
    }),
    numberField('demand', 'Air demand', 'g/s', 'Of the engine at full load; from the instrument Air demand.', { value: 0.15, atMost: 5 }),
    shareField(
      'capture',
      'Capture share',
      'Share of the oncoming air that the opening takes: 1 for one that faces it, 0.7 to 0.95 for a flush one.',
      { value: 0.9, assumption: [0.7, 1] },
    ),
    shareField(
      'recovery',
      'Share of dynamic pressure recovered',
      'How good a diffuser follows and whether the opening sits where the air stands.',
      {
        value: 0.5,
        assumption: [0.3, 0.8],
      },
    ),
    ambientPressureField(),
    temperatureField('temperature', 'Air temperature', 'Of the air at the opening.', { value: 25, believable: [-20, 60] }),
  ],
  read(values) {
    const density = dryAirDensity(values.number('ambientPressure'), values.number('temperature'));
    const [before, after] = [values.list('before'), values.list('after')];
    const [areaBefore, areaAfter, calibration, demand] = ['areaBefore', 'areaAfter', 'calibration', 'demand'].map((name) =>
      values.number(name),
    ) as [number, number, number, number];
    const compared = after.length > 0;
    const area = compared ? areaAfter : areaBefore;
    const flowOf = (list: number[], a: number) => traverseFlow(list, a, calibration).volumeFlowM3S;
    const flow = flowOf(compared ? after : before, area);
    const spread = meanInterval(compared ? after : before)!;
    const half = Math.hypot(2 * TRAVERSE_UNCERTAINTY, spread.high === null ? 0 : spread.high / spread.value - 1);
    const gain = compared ? ratioOfMeans(before, after) : null;
    const areas = areaAfter / areaBefore;
    const change = gain && { value: (1 + gain.value) * areas - 1, low: (1 + gain.low) * areas - 1, high: (1 + gain.high) * areas - 1 };
    const capture = values.number('capture');
    const speed = sufficientSpeed(demand, density, area, capture);
    const guide = areaForVelocity(demand, density, GUIDE_VELOCITY_MS.duct);
    const grid = steps(0, MOST_SPEED_MS, 71);
    const shareAt = (v: number, a: number) => (density * v * a * capture) / demand;
    const warnings: string[] = [];
    const places = PLACES[values.text('places')]!;
    if (places.points.length > 0) {
      const shares = places.points.map((place) => place.toFixed(3)).join(', ');
      warnings.push(`Read at ${shares} of the ${places.of}; all points count alike.`);
      if (before.length < places.points.length)
        warnings.push(`The traverse has ${before.length} of at least ${places.points.length} readings before.`);
    }
    if (compared && !gain) warnings.push('One reading before and after says nothing of the scatter: repeat each at least once.');
    if (speed.speedMS > 0.3 * 340) warnings.push('Beyond Mach 0.3 these formulas do not hold.');
    const velocity = demand / (density * area);
    if (velocity > GUIDE_VELOCITY_MS.ductHigh)
      warnings.push(`At full load the air would run ${velocity.toFixed(0)} m/s here; the usual guide is 25 to 40 m/s.`);
    warnings.push('The ram of a moving car cannot be seen on a dyno: the fan’s air speed at the opening stands in for it.');
    const ram = ramPressure(density, speed.speedMS, values.number('recovery'));
    return {
      sentence: `The ${compared ? 'new ' : ''}opening passes the demand from ${(speed.speedMS * 3.6).toFixed(0)} km/h on; below, the engine has to suck${
        change ? `. Flow changed by ${signedPct(change.value)} (${signedPct(change.low)} to ${signedPct(change.high)})` : ''
      }.`,
      figures: [
        figure('flow', 'Volume flow', flow, 'm³/h', { low: flow * (1 - half), high: flow * (1 + half) }),
        ...(change ? [percentFigure('change', 'Change of flow', change.value, { low: change.low, high: change.high })] : []),
        figure('sufficientSpeed', 'Suffices from', speed.speedMS, 'km/h'),
        figure('velocity', 'Velocity here at the engine’s demand', velocity, 'm/s'),
        figure('guideArea', 'Area for 30 m/s', guide.areaM2, 'cm²'),
        figure('ram', 'Recovered at that speed', ram.recoveredPa, 'kPa'),
      ],
      warnings,
      charts: [
        {
          name: 'opening-share',
          title: 'Share of the demand that comes by itself',
          subtitle: 'per cent of the engine’s demand, over vehicle speed',
          x: { label: 'Vehicle speed', unit: 'km/h' },
          y: { label: 'Share of the demand', unit: '%', from: 0 },
          lines: [
            {
              name: compared ? 'before' : 'opening',
              x: grid,
              y: grid.map((v) => 100 * shareAt(v, areaBefore)),
              style: compared ? 'dash' : 'solid',
            },
            ...(compared ? [{ name: 'after', x: grid, y: grid.map((v) => 100 * shareAt(v, areaAfter)) }] : []),
          ],
          points: [],
          marks: [{ axis: 'y', at: 100, label: 'suffices' }],
        },
      ],
    };
  },
};

const signedPct = (value: number) => `${value < 0 ? '−' : '+'}${Math.abs(100 * value).toFixed(1)} %`;
