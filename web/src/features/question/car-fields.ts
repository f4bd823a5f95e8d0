import type { Vehicle } from '@gezeit/contract';
import { UNNAMED_CAR } from '@gezeit/core';
import type { FormField, FormValue } from '../../shared/form/form-fields.js';
import { ASPIRATION_WORDS, CONTROL_WORDS } from '../../shared/question-words.js';
import { ratiosFromText, ratiosText } from './ratios.js';

const positive = { kind: 'number', above: 0, optional: true, placeholder: 'not said' } as const;
const text = { kind: 'text', placeholder: 'not said' } as const;

/** What a car is asked, in its order; the boost control where there is one. */
export function carFields({ aspiration }: Vehicle): FormField[] {
  const control: FormField = {
    kind: 'choice',
    name: 'boostControl',
    label: 'Boost control',
    why: 'On an absolute one no weather correction is proposed: the engine holds its manifold pressure whatever the weather.',
    choices: CONTROL_WORDS,
  };
  return [
    {
      kind: 'text',
      name: 'name',
      label: 'Name',
      aria: 'Name of the car',
      why: 'As you speak of it: body, engine. No plate and no owner.',
      placeholder: 'Unnamed car',
    },
    {
      kind: 'choice',
      name: 'aspiration',
      label: 'Aspiration',
      why: 'It decides how heat, spark and pressure enter the judgement.',
      choices: ASPIRATION_WORDS,
    },
    ...(aspiration === 'na' ? [] : [control]),
    {
      ...positive,
      name: 'displacementL',
      label: 'Displacement',
      unit: 'L',
      why: 'Swept volume: air demand and restriction budget are made from it.',
    },
    { ...positive, name: 'cylinders', label: 'Cylinders', unit: '–', why: 'For the record, and for injectors.' },
    { ...positive, name: 'maxRpm', label: 'Redline', unit: 'rpm', why: 'The band ends below it.' },
    {
      ...positive,
      name: 'finalDrive',
      label: 'Final drive',
      unit: '–',
      why: 'With gear and tyre it ties roller speed to engine speed: slip is seen by it.',
      isMore: true,
    },
    { ...positive, name: 'tyreRadiusM', label: 'Tyre radius', unit: 'm', why: 'Rolling radius.', isMore: true },
    { ...positive, name: 'massKg', label: 'Mass', unit: 'kg', why: 'As weighed; for pulls on a road.', isMore: true },
    {
      ...positive,
      name: 'dragAreaM2',
      label: 'Drag area',
      unit: 'm²',
      why: 'Drag coefficient times frontal area; for pulls on a road.',
      isMore: true,
    },
    {
      kind: 'choice',
      name: 'ignition',
      label: 'Ignition',
      why: 'Compression ignition has a correction of its own.',
      choices: { spark: 'spark', compression: 'compression' },
      isMore: true,
    },
    {
      kind: 'choice',
      name: 'airMetering',
      label: 'Air metering',
      why: 'With a meter, a new housing can shift it: more air read is not more air.',
      choices: { meter: 'air meter', 'speed-density': 'speed and density' },
      isMore: true,
    },
    { ...text, name: 'fuel', label: 'Fuel', why: 'What it is meant to run on.', isMore: true },
    { ...text, name: 'gearbox', label: 'Gearbox', why: 'Kind, and the ratios from first to last.', placeholder: 'manual', isMore: true },
    {
      ...text,
      name: 'gearRatios',
      label: 'Gear ratios',
      why: 'First to last, separated by spaces: 3.6 2.1 1.4 1.0.',
      placeholder: '3.6 2.1 1.4 1.0',
      isMore: true,
    },
    {
      ...text,
      name: 'testGear',
      label: 'Gear of the test',
      why: 'Nearest to 1:1, over the full range of speeds.',
      placeholder: '4',
      isMore: true,
    },
    { ...text, name: 'tyre', label: 'Tyre', why: 'Size as printed on it.', isMore: true },
  ];
}

/** Litres of a cubic metre: the field keeps its volume as every volume is kept. */
const LITRES = 1e-3;

/** What the fields show of a car. */
export function carValues(vehicle: Vehicle): Record<string, FormValue | undefined> {
  const { gearRatios, ...plain } = vehicle;
  return {
    ...(plain as unknown as Record<string, FormValue | undefined>),
    name: vehicle.name === UNNAMED_CAR ? '' : vehicle.name,
    displacementL: vehicle.displacementL == null ? null : vehicle.displacementL * LITRES,
    gearRatios: ratiosText(gearRatios),
  };
}

/** What a field changes of a car. */
export function carChange(name: string, value: FormValue): Partial<Vehicle> {
  if (name === 'name') return { name: (value as string | null) ?? UNNAMED_CAR };
  if (name === 'gearRatios') return { gearRatios: ratiosFromText((value as string | null) ?? '') };
  if (name === 'displacementL') return { displacementL: value === null ? null : Number(((value as number) / LITRES).toPrecision(8)) };
  if (name === 'cylinders') return { cylinders: value === null ? null : Math.round(value as number) };
  return { [name]: value };
}
