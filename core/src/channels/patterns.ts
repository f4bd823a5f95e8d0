import type { Quantity } from '@gezeit/contract';
import type { Concept } from './concepts.js';

/** One way to say a quantity. */
export interface Pattern {
  quantity: Quantity;
  /** Every group must be met by one of its concepts. */
  need: readonly (readonly Concept[])[];
  /** What else belongs to the name of this quantity. */
  may?: readonly Concept[];
  /** With one of these it is something else. */
  not?: readonly Concept[];
  /** What is measured: said by the name, or else by a unit of the quantity's dimension. */
  measure?: readonly Concept[];
  /** How much likelier than another way of the same length; negative for ways that are often something else. */
  weight?: number;
}

const SIDES: readonly Concept[] = ['in', 'out', 'before', 'after'];
const PLACES: readonly Concept[] = ['wheel', 'engine', 'hub', 'roller'];
const SECTIONS: readonly Concept[] = ['filter', 'duct', 'tract', 'box', 'snorkel'];
const TEMPERATURE: readonly Concept[] = ['temperature'];
const PRESSURE: readonly Concept[] = ['pressure'];

/** The ways in which the quantities are named in the field, free of language. */
export const PATTERNS: readonly Pattern[] = [
  { quantity: 'time', need: [['time', 'date']], may: ['time', 'date'], not: ['lap', 'injector', 'ignition', 'knock'] },

  { quantity: 'engineSpeed', need: [['rotation']], may: ['engine', 'speed'] },
  { quantity: 'engineSpeed', need: [['engine'], ['speed']] },
  { quantity: 'compressorSpeed', need: [['compressor', 'turbine']], measure: ['speed', 'rotation'], may: ['rotation', 'speed', 'engine'] },
  { quantity: 'rollerSpeed', need: [['roller']], measure: ['speed', 'rotation'], may: ['wheel', 'surface'] },
  { quantity: 'rollerSpeed', need: [['speed']], weight: -0.6 },
  { quantity: 'vehicleSpeed', need: [['vehicle', 'wheel', 'satellite']], measure: ['speed'], may: ['satellite'] },
  { quantity: 'vehicleSpeed', need: [['speed']], weight: -0.6 },

  { quantity: 'power', need: [['power']], may: [...PLACES, 'corrected', 'correction'] },
  { quantity: 'power', need: [PLACES, ['power']] },
  { quantity: 'torque', need: [['torque']], may: [...PLACES, 'corrected', 'correction'] },
  { quantity: 'correctionFactor', need: [['correction'], ['factor']], may: ['power', 'ambient'] },
  { quantity: 'correctionFactor', need: [['correction']], measure: ['factor'], weight: -0.5 },

  { quantity: 'throttle', need: [['throttle']], may: ['position', 'angle', 'air', 'flap'], not: [...TEMPERATURE, ...PRESSURE, ...SIDES] },
  { quantity: 'pedal', need: [['pedal']], may: ['position', 'angle', 'throttle', 'vehicle'] },

  { quantity: 'ambientTemperature', need: [['ambient']], measure: TEMPERATURE, may: ['air'] },
  { quantity: 'ambientTemperature', need: [['air'], TEMPERATURE], weight: -1.2 },
  { quantity: 'ambientTemperature', need: [TEMPERATURE], weight: -1 },
  { quantity: 'ambientPressure', need: [['ambient']], measure: PRESSURE, may: ['air', 'absolute'] },
  { quantity: 'ambientPressure', need: [['air'], PRESSURE], weight: -1.2 },
  { quantity: 'ambientPressure', need: [PRESSURE], weight: -1.5 },
  { quantity: 'relativeHumidity', need: [['humidity']], may: ['gauge', 'air', 'ambient'], not: [...TEMPERATURE] },
  { quantity: 'coolingAirTemperature', need: [['cooling', 'fan'], TEMPERATURE], may: ['air', 'cooler', 'face', 'in'] },
  { quantity: 'coolingAirTemperature', need: [['face'], TEMPERATURE], may: ['air', 'cooler', 'in'] },
  { quantity: 'coolingAirTemperature', need: [['cooler'], ['face', 'cooling'], ['air']], measure: TEMPERATURE },

  {
    quantity: 'manifoldPressure',
    need: [['manifold']],
    measure: PRESSURE,
    may: ['absolute', 'intake', 'air', 'in', 'charge', 'gauge', 'boost'],
  },
  {
    quantity: 'boostPressure',
    need: [['boost']],
    may: ['pressure', 'gauge', 'compressor', 'charge', 'manifold', 'absolute'],
    not: ['duty', 'temperature'],
  },
  { quantity: 'boostPressure', need: [['charge', 'boost'], PRESSURE, ['gauge'], ['ambient']] },
  { quantity: 'boostPressure', need: [['charge'], PRESSURE], may: ['gauge', 'absolute', 'air', 'compressor'] },
  { quantity: 'boostPressure', need: [['compressor'], PRESSURE], may: ['gauge', 'absolute'], weight: -0.7 },
  { quantity: 'boostPressure', need: [PRESSURE, ['gauge']], weight: -0.7 },

  { quantity: 'intakeAirTemperature', need: [['intake', 'manifold', 'charge']], measure: TEMPERATURE, may: ['air', 'manifold', 'intake'] },
  { quantity: 'intakeAirTemperature', need: [['in'], ['manifold'], TEMPERATURE], may: ['air'] },
  { quantity: 'intakeAirTemperature', need: [['air'], TEMPERATURE], weight: -1.2 },
  { quantity: 'intakeAirTemperature', need: [['boost'], TEMPERATURE], may: ['air'], weight: -0.5 },
  {
    quantity: 'inletTemperature',
    need: [['in'], TEMPERATURE],
    may: ['air', 'compressor', 'throttle', 'engine', ...SECTIONS],
    not: ['manifold', 'coolant'],
  },
  { quantity: 'inletTemperature', need: [['before'], ['compressor', 'throttle'], TEMPERATURE], may: ['air'] },
  { quantity: 'inletTemperature', need: [SECTIONS, TEMPERATURE], may: ['air', 'in', 'out', 'before', 'after', 'intake'] },
  { quantity: 'inletTemperature', need: [['compressor'], ['in', 'before']], measure: TEMPERATURE, may: ['air'] },
  {
    quantity: 'inletPressure',
    need: [['in'], PRESSURE],
    may: ['air', 'compressor', 'throttle', 'absolute', 'gauge', 'engine', 'vacuum', ...SECTIONS],
    not: ['manifold'],
  },
  { quantity: 'inletPressure', need: [['in', 'intake'], ['vacuum']], may: ['air', 'compressor', 'pressure', ...SECTIONS] },
  { quantity: 'inletPressure', need: [['before'], ['compressor', 'throttle'], PRESSURE], may: ['air', 'absolute', 'gauge', 'in'] },
  { quantity: 'inletPressure', need: [['compressor'], ['in', 'before']], measure: PRESSURE, may: ['air', 'absolute', 'gauge'] },
  { quantity: 'inletPressure', need: [['intake'], PRESSURE], may: ['air', 'absolute', 'gauge', 'vacuum', ...SECTIONS] },
  {
    quantity: 'inletPressure',
    need: [SECTIONS, ['pressure', 'vacuum']],
    may: ['air', 'in', 'out', 'before', 'after', 'intake', 'absolute', 'gauge'],
    weight: -0.3,
  },

  { quantity: 'compressorOutTemperature', need: [['compressor'], ['out', 'after']], measure: TEMPERATURE, may: ['air', 'charge'] },
  {
    quantity: 'compressorOutTemperature',
    need: [['in', 'before'], ['cooler'], TEMPERATURE],
    may: ['air', 'charge', 'intake'],
    not: ['coolant', 'face', 'cooling', 'fan'],
  },
  {
    quantity: 'coolerOutTemperature',
    need: [['cooler'], ['out', 'after']],
    measure: TEMPERATURE,
    may: ['air', 'charge', 'intake'],
    not: ['coolant'],
  },
  {
    quantity: 'preCoolerPressure',
    need: [['in', 'before'], ['cooler'], PRESSURE],
    may: ['air', 'charge', 'absolute', 'gauge', 'boost'],
    not: ['coolant'],
  },
  {
    quantity: 'preCoolerPressure',
    need: [['compressor'], ['out', 'after'], PRESSURE],
    may: ['air', 'charge', 'absolute', 'gauge', 'boost'],
  },
  {
    quantity: 'postCoolerPressure',
    need: [['cooler'], ['out', 'after'], PRESSURE],
    may: ['air', 'charge', 'absolute', 'gauge', 'boost'],
    not: ['coolant'],
  },
  { quantity: 'coolantPressure', need: [['coolant'], PRESSURE], may: ['cooler', 'charge', 'absolute', 'gauge'] },

  {
    quantity: 'pressureDrop',
    need: [['drop']],
    may: ['pressure', 'air', 'intake', 'charge', 'cooler', 'delta', 'in', ...SECTIONS],
    not: ['temperature'],
  },
  { quantity: 'pressureDrop', need: [['delta'], PRESSURE], may: ['air', 'intake', 'charge', 'cooler', ...SECTIONS] },
  {
    quantity: 'pressureDrop',
    need: [['loss'], ['pressure', 'charge']],
    may: ['air', 'intake', 'cooler', 'in', 'pressure', 'charge', ...SECTIONS],
  },

  {
    quantity: 'airMassFlow',
    need: [['air'], ['mass', 'flow', 'meter']],
    may: ['flow', 'mass', 'intake', 'meter', 'engine'],
    not: ['frequency'],
  },
  { quantity: 'airMassFlow', need: [['mass'], ['flow']], may: ['intake', 'meter'] },
  { quantity: 'airMassFlow', need: [['meter']], may: ['flow', 'mass', 'intake'], weight: -0.3, not: ['frequency'] },
  { quantity: 'airMeterFrequency', need: [['air', 'meter', 'flow'], ['frequency']], may: ['air', 'mass', 'flow', 'meter'] },

  {
    quantity: 'lambda',
    need: [['lambda']],
    may: ['ratio', 'mixture', 'air', 'fuel', 'exhaust'],
    not: ['trim', 'short', 'long', 'correction'],
  },
  { quantity: 'lambda', need: [['air'], ['fuel'], ['ratio']], may: ['mixture', 'lambda'] },
  { quantity: 'lambda', need: [['air'], ['fuel']], weight: -0.3 },
  { quantity: 'lambda', need: [['ratio'], ['mixture']], weight: -0.8 },
  {
    quantity: 'ignitionAdvance',
    need: [['ignition']],
    may: ['advance', 'angle', 'position', 'engine'],
    not: ['time', 'duty', 'retard', 'correction', 'knock'],
  },
  { quantity: 'ignitionAdvance', need: [['advance']], may: ['angle', 'engine'] },
  { quantity: 'knockRetard', need: [['knock'], ['retard', 'correction']], may: ['advance', 'ignition', 'angle', 'retard', 'cylinder'] },
  { quantity: 'knockRetard', need: [['knock']], may: ['ignition', 'angle'], measure: ['retard'], weight: -0.3 },
  { quantity: 'knockRetard', need: [['ignition'], ['retard']], may: ['angle'], weight: -0.2 },
  { quantity: 'injectorTime', need: [['injector']], measure: ['time', 'pulse'], may: ['fuel', 'position', 'time', 'pulse'] },
  { quantity: 'injectorTime', need: [['fuel'], ['time', 'pulse']], may: ['position', 'time', 'pulse'], weight: -0.3 },
  { quantity: 'injectorTime', need: [['pulse']], may: ['time'], weight: -0.8 },
  {
    quantity: 'shortTermTrim',
    need: [['short'], ['trim', 'term', 'correction']],
    may: ['fuel', 'mixture', 'trim', 'term', 'correction', 'lambda'],
  },
  {
    quantity: 'longTermTrim',
    need: [['long'], ['trim', 'term', 'correction']],
    may: ['fuel', 'mixture', 'trim', 'term', 'correction', 'lambda'],
  },
  { quantity: 'wastegateDuty', need: [['wastegate']], may: ['flap', 'duty', 'position', 'boost', 'ratio'], not: [...PRESSURE] },
  { quantity: 'wastegateDuty', need: [['boost'], ['duty']], may: ['flap', 'correction'] },

  { quantity: 'coolantInTemperature', need: [['coolant'], ['in', 'before'], TEMPERATURE], may: ['cooler', 'charge', 'air'] },
  { quantity: 'coolantOutTemperature', need: [['coolant'], ['out', 'after'], TEMPERATURE], may: ['cooler', 'charge', 'air'] },
  { quantity: 'coolantInTemperature', need: [['coolant'], ['in', 'before'], ['cooler']], measure: TEMPERATURE, may: ['charge', 'air'] },
  { quantity: 'coolantOutTemperature', need: [['coolant'], ['out', 'after'], ['cooler']], measure: TEMPERATURE, may: ['charge', 'air'] },
  // The bare word means its temperature to everybody who logs it: nothing need say what is measured.
  { quantity: 'coolantTemperature', need: [['coolant']], may: ['engine', ...TEMPERATURE] },
  { quantity: 'coolantTemperature', need: [['engine'], TEMPERATURE], weight: -0.5 },
  { quantity: 'oilTemperature', need: [['oil']], measure: TEMPERATURE, may: ['engine'] },
  { quantity: 'headTemperature', need: [['head']], measure: TEMPERATURE, may: ['cylinder', 'engine'] },
  { quantity: 'exhaustTemperature', need: [['exhaust'], TEMPERATURE], may: ['cylinder', 'turbine', 'air', 'engine', ...SIDES] },
  { quantity: 'exhaustPressure', need: [['exhaust'], PRESSURE], may: ['manifold', 'turbine', 'absolute', 'gauge', ...SIDES] },

  { quantity: 'gear', need: [['gear']], may: ['position'] },
  { quantity: 'distance', need: [['distance']], may: ['lap', 'vehicle', 'satellite'] },
  { quantity: 'latitude', need: [['latitude']], may: ['satellite', 'position'] },
  { quantity: 'longitude', need: [['longitude']], may: ['satellite', 'position'] },
  { quantity: 'altitude', need: [['altitude']], may: ['satellite'] },
  { quantity: 'lap', need: [['lap']], not: ['time', 'distance', 'speed'] },
  { quantity: 'flapPosition', need: [['flap'], ['position']], may: ['intake', 'air', 'exhaust', 'tract'] },
  { quantity: 'ethanolPct', need: [['ethanol']], may: ['fuel'] },
];
