import { fromSi, planeAt, seriesAt, type Place } from '@gezeit/core';
import type { LapLine } from '@gezeit/contract';
import type { Data, Layout } from 'plotly.js';
import type { Tokens } from '../../../shared/charts/theme.js';
import type { TraceSamples } from '../../../shared/api/traces.js';
import type { Show } from '../../../shared/units/show.js';

/** Where a drive went, sample by sample: s on its log's own clock, and the intake air there where it is logged. */
export interface DriveTrack {
  timeS: Float64Array;
  places: Place[];
  intakeAirC: Float64Array | null;
}

/** Positions of one log from its reduced columns, which do not keep the same samples. */
export function trackOf(latitude: TraceSamples, longitude: TraceSamples, air: TraceSamples | null): DriveTrack | null {
  const at = latitude.timeS;
  const east = seriesAt({ at: longitude.timeS, values: longitude.values }, at);
  const keep = [...at.keys()].filter((i) => Number.isFinite(latitude.values[i]!) && Number.isFinite(east[i]!));
  if (keep.length < 10) return null;
  const temperature = air && seriesAt({ at: air.timeS, values: air.values }, at);
  return {
    timeS: Float64Array.from(keep, (i) => at[i]!),
    places: keep.map((i) => ({ latitude: latitude.values[i]!, longitude: east[i]! })),
    intakeAirC: temperature && Float64Array.from(keep, (i) => temperature[i]!),
  };
}

/** The way driven, m east and north of where it began, coloured by intake air, with the line that cuts laps. No tiles from outside. */
export function mapFigure(track: DriveTrack, line: LapLine | null, show: Show, tokens: Tokens): { data: Data[]; layout: Partial<Layout> } {
  const plane = planeAt(track.places[0]!);
  const points = track.places.map(plane);
  const air = track.intakeAirC;
  const ends = line ? [plane(line.from), plane(line.to)] : [];
  const axis = { zeroline: false, ticksuffix: '', color: tokens.muted };
  return {
    data: [
      {
        type: 'scatter',
        mode: 'lines+markers',
        x: points.map(({ x }) => x),
        y: points.map(({ y }) => y),
        customdata: [...track.timeS.keys()],
        line: { color: tokens.neutralSoft, width: 1 },
        marker: {
          size: 5,
          ...(air
            ? {
                color: [...air].map((value) => fromSi(value, show.units.temperature)),
                colorscale: [
                  [0, tokens.greenSoft],
                  [1, tokens.amber],
                ] as [number, string][],
                colorbar: { title: { text: `Intake air, ${show.units.temperature}`, side: 'right' }, thickness: 10, outlinewidth: 0 },
              }
            : { color: tokens.neutral }),
        },
        hoverinfo: 'none',
        name: 'way',
      },
      ...(line
        ? [
            {
              type: 'scatter',
              mode: 'lines+markers',
              x: ends.map(({ x }) => x),
              y: ends.map(({ y }) => y),
              line: { color: tokens.brick, width: 3 },
              marker: { color: tokens.brick, size: 7, symbol: 'line-ns' },
              hoverinfo: 'skip',
              name: 'line',
            } as Data,
          ]
        : []),
    ],
    layout: {
      margin: { l: 56, r: 8, t: 8, b: 40 },
      hovermode: 'closest',
      showlegend: false,
      xaxis: { ...axis, title: { text: 'east of the first sample, m' } },
      yaxis: { ...axis, title: { text: 'north, m' }, scaleanchor: 'x', scaleratio: 1 },
    },
  };
}

/** What the map is drawn from, in the units that are shown. */
export function mapTable(track: DriveTrack, show: Show): { header: string; values: (number | null)[] }[] {
  return [
    { header: 'time [s]', values: [...track.timeS] },
    { header: 'latitude [°]', values: track.places.map(({ latitude }) => latitude) },
    { header: 'longitude [°]', values: track.places.map(({ longitude }) => longitude) },
    ...(track.intakeAirC
      ? [
          {
            header: `intake air [${show.units.temperature}]`,
            values: [...track.intakeAirC].map((value) => (Number.isFinite(value) ? fromSi(value, show.units.temperature) : null)),
          },
        ]
      : []),
  ];
}
