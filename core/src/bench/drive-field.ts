import type { Field, Values } from './fields.js';

/** What drives the compressor: seeded from the car, and decides whether the boost is held when the inlet pressure falls. */
export const DRIVE_FIELD: Field = {
  kind: 'choice',
  name: 'drive',
  label: 'Driven by',
  why: 'A turbine can make up for a lower inlet pressure; a compressor on the crankshaft keeps its ratio, and its boost falls.',
  choices: { turbine: 'a turbine', crankshaft: 'the crankshaft' },
  value: 'turbine',
};

export const isCrankshaftDriven = (values: Values): boolean => values.text('drive') === 'crankshaft';
