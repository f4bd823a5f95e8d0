import type { SheetSource } from '@gezeit/contract';

type Columns = { header: string; values: (number | string | null)[] }[];
type Rows<T> = [string, (row: T) => number | string | null | undefined][];

const columnsOf = <T>(rows: readonly T[], columns: Rows<T>): Columns =>
  columns.map(([header, of]) => ({ header, values: rows.map((row) => of(row) ?? null) }));

/** A sheet's data as tables, in the units of the exchange format whatever is shown: each under the name that its file ends with. */
export const SHEET_TABLES: Record<string, { label: string; of(source: SheetSource, candidate: string): Columns }> = {
  answers: {
    label: 'answers',
    of: ({ findings }, candidate) =>
      columnsOf(findings.comparisons.find((one) => one.candidate === candidate)!.answers, [
        ['question', ({ kind }) => kind],
        ['answer', ({ answer }) => answer],
        ['estimate', ({ estimate }) => estimate],
        ['low', ({ low }) => low],
        ['high', ({ high }) => high],
        ['unit', ({ unit }) => unit],
        ['why', ({ why }) => why],
      ]),
  },
  curves: {
    label: 'curves with their bands, of every setup',
    of: ({ curves }) =>
      columnsOf(
        curves.setups.flatMap((curve) => curve.engineSpeedRpm.map((rpm, i) => ({ curve, rpm, i }))),
        [
          ['setup', ({ curve }) => curve.setup],
          ['engineSpeedRpm', ({ rpm }) => rpm],
          ['powerW', ({ curve, i }) => curve.powerW[i]],
          ['powerLowW', ({ curve, i }) => curve.powerLowW[i]],
          ['powerHighW', ({ curve, i }) => curve.powerHighW[i]],
          ['torqueNm', ({ curve, i }) => curve.torqueNm[i]],
          ['torqueLowNm', ({ curve, i }) => curve.torqueLowNm[i]],
          ['torqueHighNm', ({ curve, i }) => curve.torqueHighNm[i]],
          ['airMassFlowKgS', ({ curve, i }) => curve.airMassFlowKgS[i]],
        ],
      ),
  },
  difference: {
    label: 'difference over engine speed',
    of: ({ curves }, candidate) =>
      columnsOf(
        curves.differences
          .filter((one) => one.candidate === candidate)
          .flatMap((curve) => curve.engineSpeedRpm.map((rpm, i) => ({ curve, rpm, i }))),
        [
          ['reference', ({ curve }) => curve.reference],
          ['candidate', ({ curve }) => curve.candidate],
          ['engineSpeedRpm', ({ rpm }) => rpm],
          ['pct', ({ curve, i }) => curve.pct[i]],
          ['lowPct', ({ curve, i }) => curve.lowPct[i]],
          ['highPct', ({ curve, i }) => curve.highPct[i]],
          ['wholeLowPct', ({ curve, i }) => curve.wholeLowPct[i]],
          ['wholeHighPct', ({ curve, i }) => curve.wholeHighPct[i]],
        ],
      ),
  },
  pulls: {
    label: 'pulls of every setup',
    of: ({ findings }) =>
      columnsOf(findings.pulls, [
        ['id', ({ id }) => id],
        ['setup', ({ setup }) => setup],
        ['status', ({ status }) => status],
        ['reasons', ({ reasons }) => reasons.join('; ')],
        ['flags', ({ flags }) => flags.join('; ')],
        ['meanPowerUncorrectedKW', ({ meanPowerUncorrectedKW }) => meanPowerUncorrectedKW],
        ['correctionFactor', ({ correctionFactor }) => correctionFactor],
        ['meanPowerKW', ({ meanPowerKW }) => meanPowerKW],
        ['peakPowerKW', ({ peakPowerKW }) => peakPowerKW],
        ['peakPowerRpm', ({ peakPowerRpm }) => peakPowerRpm],
        ['startIntakeAirC', ({ startIntakeAirC }) => startIntakeAirC],
        ['intakeAirRiseK', ({ intakeAirRiseK }) => intakeAirRiseK],
      ]),
  },
};
