import { dryAirDensity } from '../../demand/air-demand.js';
import { penetrationRatio } from '../../filter/efficiency.js';
import { INTERVAL_EXPONENT, loadedDropPa, serviceInterval } from '../../filter/loading.js';
import { coneMedia, faceVelocityMS, GUIDE_FACE_VELOCITY_MS, panelMediaM2, USABLE_SHARE } from '../../filter/media.js';
import { ambientPressureField, numberField, shareField, temperatureField, type Values } from '../fields.js';
import { figure, percentFigure, steps, type Instrument } from '../instrument.js';

const mm = (name: string, label: string, why: string, optional = false) => numberField(name, label, 'mm', why, { atMost: 2, optional });

function mediaArea(row: Values): { areaM2: number; blocked: boolean } {
  const usable = row.number('usable');
  if (row.text('shape') === 'panel')
    return { areaM2: panelMediaM2(row.number('pleats'), row.number('depth'), row.number('length'), usable), blocked: false };
  const top = row.optional('topDiameter') ?? row.optional('baseDiameter') ?? 0;
  return coneMedia({
    pleats: row.number('pleats'),
    depthBaseM: row.number('depth'),
    depthTopM: row.optional('topDepth') ?? row.number('depth'),
    baseDiameterM: row.optional('baseDiameter') ?? 0,
    topDiameterM: top,
    heightM: row.number('length'),
    usable,
    mediaThicknessM: row.optional('thickness') ?? 0,
  });
}

export const filterInstrument: Instrument = {
  id: 'filter',
  title: 'Filter',
  question: 'Which filter flows, holds dust and lasts: on what is a tie on power decided?',
  sections: ['filter'],
  formulas: ['g1', 'g2', 'g3', 'g4', 'g5', 'g6'],
  fields: [
    {
      kind: 'table',
      name: 'filters',
      label: 'Filters, the reference first',
      why: 'The first row is what the others are compared with.',
      atLeastRows: 1,
      columns: [
        { kind: 'text', name: 'name', label: 'Filter', why: 'Name and revision.' },
        {
          kind: 'choice',
          name: 'shape',
          label: 'Shape',
          why: 'A straight cylinder: cone with equal diameters.',
          choices: { panel: 'panel', cone: 'cone' },
          value: 'panel',
        },
        numberField('pleats', 'Pleats', '–', 'Counted.', { atMost: 2000, believable: [10, 400] }),
        mm('depth', 'Pleat depth', 'At the base of a cone.'),
        mm('length', 'Pleat length or height', 'Along the pleat.'),
        mm('topDepth', 'Depth at the top', 'Of a cone; empty where it is the same.', true),
        mm('baseDiameter', 'Base diameter', 'Of a cone.', true),
        mm('topDiameter', 'Top diameter', 'Of a cone.', true),
        mm('thickness', 'Media thickness', 'To see whether pleats block each other.', true),
        shareField('usable', 'Usable share', 'Not glued, pinched or folded away.', { value: USABLE_SHARE }),
        numberField('cleanDrop', 'Clean drop', 'kPa', 'At the demand, measured or from the fit of the flow bench.', {
          atMost: 30_000,
          optional: true,
          believable: [20, 5000],
        }),
        shareField('efficiency', 'Efficiency', 'Gravimetric, initial, ISO 5011: dust held of dust fed.', {
          optional: true,
          believable: [0.9, 0.9999],
        }),
        numberField('cost', 'Cost', '–', 'In your currency.', { optional: true, atLeast: 0, atMost: 1e6 }),
        numberField('noise', 'Noise', 'dB', 'At the ear or one metre from the opening, all filters alike.', {
          optional: true,
          atLeast: 0,
          atMost: 160,
          believable: [40, 120],
        }),
      ],
    },
    numberField('demand', 'Air demand', 'g/s', 'Of the engine at full load.', { value: 0.15, atMost: 5 }),
    numberField('dust', 'Dust load', 'g', 'Dust that a filter has taken up when it is judged as loaded.', {
      value: 0.06,
      atLeast: 0,
      atMost: 10,
      assumption: [0.03, 0.2],
    }),
    numberField('cake', 'Cake resistance', '–', 'Pa per (kg/m²) and (m/s), from a loading test; per g/m² it is a thousandth of that.', {
      value: 12_000,
      atLeast: 0,
      atMost: 1e7,
      assumption: [5000, 40_000],
    }),
    numberField('interval', 'Interval of the reference', 'km', 'Distance after which the stock filter is changed.', {
      value: 3e7,
      atMost: 1e9,
      believable: [1e6, 1e8],
    }),
    numberField('exponent', 'Exponent of interval over area', '–', '1: dust per area stays the same; up to 2 at a fixed added drop.', {
      value: INTERVAL_EXPONENT.value,
      atLeast: 1,
      atMost: 2,
      assumption: [INTERVAL_EXPONENT.low, INTERVAL_EXPONENT.high],
    }),
    ambientPressureField(),
    temperatureField('temperature', 'Air temperature', 'At the filter.', { value: 25, believable: [-20, 70] }),
  ],
  read(values) {
    const density = dryAirDensity(values.number('ambientPressure'), values.number('temperature'));
    const flow = values.number('demand') / density;
    const [dust, cake] = [values.number('dust'), values.number('cake')];
    const warnings: string[] = [];
    const filters = values.rows('filters').map((row) => {
      const { areaM2, blocked } = mediaArea(row);
      const clean = row.optional('cleanDrop');
      if (blocked) warnings.push(`${row.text('name')}: the pleats block each other at the small end; the usable share falls.`);
      return {
        name: row.text('name'),
        row,
        areaM2,
        clean,
        velocity: faceVelocityMS(flow, areaM2),
        loaded: clean === null ? null : loadedDropPa(clean, cake, dust, areaM2, flow).totalPa,
      };
    });
    const [reference] = filters;
    const range = { low: GUIDE_FACE_VELOCITY_MS.low, high: GUIDE_FACE_VELOCITY_MS.high * 3 };
    for (const { name, velocity } of filters)
      if (velocity > range.high)
        warnings.push(`${name}: ${velocity.toFixed(2)} m/s through the media is far above the guide of 0.1 to 0.2 m/s.`);
    if (filters.length > 1)
      warnings.push('Interval from area alone holds for the same medium only; otherwise capacity must be stated too.');
    const grams = steps(0, Math.max(0.1, dust * 2), 21);
    const rows = filters.map(({ name, row, areaM2, velocity, clean, loaded }) => {
      const efficiency = row.optional('efficiency');
      const ofReference = reference!.row.optional('efficiency');
      const interval = (exponent: number) => serviceInterval(values.number('interval'), reference!.areaM2, areaM2, exponent);
      const ends = [interval(INTERVAL_EXPONENT.low), interval(INTERVAL_EXPONENT.high)];
      return {
        row: name,
        figures: [
          figure('area', 'Media area', areaM2, 'm²'),
          figure('velocity', 'Face velocity', velocity, 'm/s'),
          figure('clean', 'Drop, new', clean, 'kPa'),
          figure('loaded', 'Drop, loaded', loaded, 'kPa'),
          figure('interval', 'Interval', interval(values.number('exponent')), 'km', { low: Math.min(...ends), high: Math.max(...ends) }),
          efficiency === null
            ? figure('penetration', 'Lets through', null, '%')
            : percentFigure('penetration', 'Lets through', 1 - efficiency),
          figure(
            'timesReference',
            'Dust through, of the reference’s',
            efficiency === null || ofReference === null || ofReference >= 1 || efficiency >= 1
              ? null
              : penetrationRatio(ofReference, efficiency),
            '–',
          ),
          figure('cost', 'Cost', row.optional('cost'), '–'),
          figure('noise', 'Noise', row.optional('noise'), 'dB'),
        ],
      };
    });
    const drops = filters.filter(({ clean }) => clean !== null);
    return {
      sentence:
        filters.length === 1
          ? `${reference!.name} has ${reference!.areaM2.toFixed(2)} m² of media: ${reference!.velocity.toFixed(2)} m/s through it at full load.`
          : `${filters
              .slice(1)
              .map(({ name, areaM2 }) => `${name} has ${(areaM2 / reference!.areaM2).toFixed(2)} times the media of ${reference!.name}`)
              .join('; ')}.`,
      figures: [],
      rows,
      warnings,
      charts: [
        {
          name: 'filter-loading',
          title: 'Drop as dust comes in',
          subtitle: 'at the engine’s demand; the dust term falls with the square of the media area',
          x: { label: 'Dust taken up', unit: 'g' },
          y: { label: 'Pressure drop', unit: 'kPa', from: 0 },
          lines: drops.map(({ name, areaM2, clean }) => ({
            name,
            x: grams,
            y: grams.map((mass) => loadedDropPa(clean!, cake, mass, areaM2, flow).totalPa),
          })),
          points: [],
        },
      ],
    };
  },
};
