import type { Cell } from '@gezeit/contract';
import { isTimeZone, UNNAMED_CELL } from '@gezeit/core';
import type { FormField, FormValue } from '../../shared/form/form-fields.js';

const positive = { kind: 'number', above: 0, optional: true, placeholder: 'not known' } as const;
const text = { kind: 'text', placeholder: 'not said', isMore: true } as const;

const zoneProblem = (zone: string): string | null => (isTimeZone(zone) ? null : 'No such time zone. Write it as Europe/Oslo.');

/** What a cell is asked, in its order; each field is called by the cell's number. */
export function cellFields(number: number, isOnly: boolean): FormField[] {
  const of = (what: string) => `${what} of cell ${number}`;
  return [
    {
      kind: 'text',
      name: 'name',
      label: 'Name',
      aria: isOnly ? 'Name of the cell' : of('Name'),
      why: 'Dyno and place.',
      placeholder: 'Unnamed cell',
    },
    {
      kind: 'choice',
      name: 'kind',
      label: 'Kind',
      aria: of('Kind'),
      why: 'An inertia roller sees no steady load; an engine dyno no tyres.',
      choices: { inertia: 'inertia roller', brake: 'brake', hub: 'hub', engine: 'engine', road: 'road', track: 'track' },
    },
    {
      kind: 'choice',
      name: 'powerAt',
      label: 'Power measured',
      aria: `Where power is measured, cell ${number}`,
      why: 'Differences travel between places, absolute figures do not: no loss is ever added back.',
      choices: { wheel: 'at the wheel', hub: 'at the hub', crank: 'at the crank' },
    },
    {
      ...positive,
      name: 'repeatabilityPct',
      label: 'Repeatability',
      aria: of('Repeatability'),
      unit: '%',
      why: 'Standard deviation of one pull against the next with nothing changed. Unknown: a cautious default is used; later it comes from the cell’s own history.',
    },
    {
      ...positive,
      name: 'driftPctPerHour',
      label: 'Drift',
      aria: of('Drift'),
      unit: '%',
      behind: 'an hour',
      why: 'Standard deviation of the drift, per cent an hour. Later from the cell’s own history.',
      isMore: true,
    },
    {
      ...positive,
      name: 'rollerInertiaKgM2',
      label: 'Roller inertia',
      aria: of('Roller inertia'),
      unit: '–',
      behind: 'kg·m²',
      why: 'kg·m² of everything that turns with the roller.',
      isMore: true,
    },
    {
      kind: 'number',
      optional: true,
      placeholder: 'not known',
      name: 'elevationM',
      label: 'Elevation',
      aria: of('Elevation'),
      unit: 'm',
      why: 'Above the sea: a pressure from a weather service is reduced to sea level and must be brought back.',
      isMore: true,
    },
    {
      ...text,
      name: 'smoothing',
      label: 'Smoothing',
      aria: of('Smoothing'),
      why: 'As set on the dyno: heavy smoothing hides a wobble and moves a peak.',
    },
    {
      ...text,
      name: 'rampOrLoad',
      label: 'Ramp or load',
      aria: of('Ramp or load'),
      why: 'Ramp of a brake in rpm a second, or load setting: the same for every pull.',
    },
    { ...text, name: 'fans', label: 'Fans', aria: of('Fans'), why: 'Number, place, air speed at the opening.' },
    {
      ...text,
      name: 'timeZone',
      label: 'Time zone',
      aria: of('Time zone'),
      why: 'Such as Europe/Oslo: clock times on the tide strip.',
      refuse: zoneProblem,
    },
  ];
}

/** What the fields show of a cell. */
export const cellValues = (cell: Cell): Record<string, FormValue | undefined> => ({
  ...(cell as unknown as Record<string, FormValue | undefined>),
  name: cell.name === UNNAMED_CELL ? '' : cell.name,
});

/** What a field changes of a cell. */
export const cellChange = (name: string, value: FormValue): Partial<Cell> =>
  name === 'name' ? { name: (value as string | null) ?? UNNAMED_CELL } : { [name]: value };
