import type { Correction, Metric, Programme, TypedFigures } from '@gezeit/contract';
import { METRIC_WORDS } from '@gezeit/core';

/** Figures as they are typed, in the units kept inside. */
export interface FigureForm {
  peakW: number | null;
  peakRpm: number | null;
  bandW: number | null;
  peakTorqueNm: number | null;
  peakTorqueRpm: number | null;
  bandTorqueNm: number | null;
  /** Null as long as it is not said. */
  corrected: Correction | null;
  points: { rpm: number | null; powerW: number | null }[];
}

const inW = (kW: number | null | undefined) => (kW == null ? null : kW * 1000);
const inKW = (watt: number | null) => (watt === null ? null : watt / 1000);

export function figureForm(typed: TypedFigures | null | undefined): FigureForm {
  return {
    peakW: inW(typed?.peakPowerKW),
    peakRpm: typed?.peakPowerRpm ?? null,
    bandW: inW(typed?.bandMeanPowerKW),
    peakTorqueNm: typed?.peakTorqueNm ?? null,
    peakTorqueRpm: typed?.peakTorqueRpm ?? null,
    bandTorqueNm: typed?.bandMeanTorqueNm ?? null,
    corrected: typed?.corrected === undefined ? null : (typed.corrected ?? 'NONE'),
    points: (typed?.points ?? []).map(({ rpm, powerKW }) => ({ rpm, powerW: powerKW * 1000 })),
  };
}

const known = ({ points }: FigureForm) =>
  points.filter((point): point is { rpm: number; powerW: number } => point.rpm !== null && point.powerW !== null);

export const hasHalfPoint = ({ points }: FigureForm) => points.some(({ rpm, powerW }) => (rpm === null) !== (powerW === null));

export const isEmptyForm = (form: FigureForm) =>
  [form.peakW, form.bandW, form.peakTorqueNm, form.bandTorqueNm].every((figure) => figure === null) && known(form).length === 0;

/** What keeps the form from being kept, in words; null for nothing. */
export function openInForm(form: FigureForm): string | null {
  if (isEmptyForm(form)) return 'Type at least one figure.';
  if (hasHalfPoint(form)) return 'A point of the curve needs its engine speed and its power.';
  return form.corrected === null ? 'Say what the figures are corrected by: most sheets print it beside them.' : null;
}

export function typedFigures(form: FigureForm, photo: string | null): TypedFigures {
  return {
    peakPowerKW: inKW(form.peakW),
    peakPowerRpm: form.peakRpm,
    bandMeanPowerKW: inKW(form.bandW),
    peakTorqueNm: form.peakTorqueNm,
    peakTorqueRpm: form.peakTorqueRpm,
    bandMeanTorqueNm: form.bandTorqueNm,
    corrected: form.corrected,
    points: known(form).map(({ rpm, powerW }) => ({ rpm, powerKW: powerW / 1000 })),
    photo,
  };
}

/** Which figures the questions need, in words: "mean power and peak torque". */
export function neededFigures({ metric, questions }: Programme): string {
  const asked = new Set<Metric>((questions ?? []).map((question) => question.metric ?? metric));
  if (asked.size === 0) asked.add(metric);
  return [...asked].map((one) => METRIC_WORDS[one]).join(' and ');
}
