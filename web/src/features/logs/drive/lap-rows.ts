import type { DriveFinding, Lap } from '@gezeit/contract';
import { fromSi, plain } from '@gezeit/core';
import type { Show } from '../../../shared/units/show.js';

/** The laps of a drive as they are shown. */
export function lapRows({ laps }: DriveFinding, show: Show) {
  const or = (value: number | null, text: (known: number) => string) => (value === null ? '–' : text(value));
  return laps.map((lap) => ({
    number: lap.number,
    counts: lap.counts,
    seconds: plain(lap.seconds, 2),
    cells: [
      or(lap.distanceM, (value) => plain(value / 1000, 2)),
      or(lap.fullThrottleShare, (value) => `${plain(100 * value, 0)} %`),
      show.temperature(lap.intakeAirStartC),
      show.temperature(lap.intakeAirMeanC),
      show.temperature(lap.intakeAirPeakC),
      or(lap.aboveAmbientK, (value) => plain(show.differenceOf(value), 1)),
      show.temperature(lap.coolantPeakC, 0),
      show.temperature(lap.oilPeakC, 0),
      or(lap.knockPeakDeg, (value) => `${plain(value, 1)}°`),
    ],
  }));
}

/** The same as it is saved, in the units that are shown. */
export function lapTable({ laps }: DriveFinding, show: Show): { header: string; values: (number | null)[] }[] {
  const column = (header: string, of: (lap: Lap) => number | null) => ({ header, values: laps.map(of) });
  const { temperature } = show.units;
  const celsius = (what: string, of: (lap: Lap) => number | null) =>
    column(`${what} [${temperature}]`, (lap) => {
      const value = of(lap);
      return value === null ? null : fromSi(value, temperature);
    });
  return [
    column('lap', ({ number }) => number),
    column('start [s]', ({ startS }) => startS),
    column('time [s]', ({ seconds }) => seconds),
    column('distance [m]', ({ distanceM }) => distanceM),
    column('share at full throttle', ({ fullThrottleShare }) => fullThrottleShare),
    celsius('intake air at the start', ({ intakeAirStartC }) => intakeAirStartC),
    celsius('intake air, mean', ({ intakeAirMeanC }) => intakeAirMeanC),
    celsius('intake air, most', ({ intakeAirPeakC }) => intakeAirPeakC),
    column(`above ambient [${show.differenceUnit}]`, ({ aboveAmbientK }) =>
      aboveAmbientK === null ? null : show.differenceOf(aboveAmbientK),
    ),
    celsius('coolant, most', ({ coolantPeakC }) => coolantPeakC),
    celsius('oil, most', ({ oilPeakC }) => oilPeakC),
    column('knock retard, most [°]', ({ knockPeakDeg }) => knockPeakDeg),
    column('compared', ({ counts }) => (counts ? 1 : 0)),
  ];
}
