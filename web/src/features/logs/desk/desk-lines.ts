import { overSpeed, seriesDifference, type DeskChannel, type Formula, type Series, type UnitName } from '@gezeit/core';
import type { Dash } from '../../../shared/charts/setup-colours.js';
import type { Show } from '../../../shared/units/show.js';
import type { DeskPull } from './desk-store.js';
import { checkedAs } from './check-marks.js';
import { columnUnit, shownIn } from './shown-unit.js';
import { sampleKey, type DeskSamples } from './use-desk-samples.js';

/** A line as it is drawn: one channel or formula of one pull, in the unit that is shown. */
export interface DeskLine {
  key: string;
  pull: string;
  setup: string;
  /** How checks call its channel; null for formulas and what is not known. */
  checkedAs: string | null;
  /** Of the channel or formula. */
  label: string;
  unit: string;
  series: Series;
  colour: string;
  dash: Dash;
  opacity: number;
}

/** What a line is made from, before its unit. */
interface Drawable {
  label: string;
  checkedAs: string | null;
  unit: UnitName | null;
  otherwise: string;
  isDifference: boolean;
  of(pull: DeskPull): Series | null;
}

export interface LineOptions {
  pulls: readonly DeskPull[];
  channels: readonly DeskChannel[];
  formulas: readonly { name: string; formula: Formula | null }[];
  /** Channels by the name that formulas give them. */
  byFormulaName: ReadonlyMap<string, string>;
  axis: 'time' | 'engineSpeed' | 'channel';
  /** The pull that is taken from the others. */
  less: DeskPull | null;
  samples: DeskSamples;
  show: Show;
  /** Colour of a line: by its setup where there are several pulls, else by its place. */
  colourOf(pull: DeskPull, place: number): string;
}

const DASHES: readonly Dash[] = ['solid', 'dash', 'dot', 'dashdot', 'longdash'];
/** Pulls of one setup are told apart by how strong they are drawn. */
const OPACITIES = [1, 0.62, 0.4];

/** Every line that lies on the desk. What a pull has not logged is not drawn. */
export function deskLines(options: LineOptions): DeskLine[] {
  const { pulls, less, show, axis } = options;
  const drawables = drawablesOf(options);
  const perUnit = new Map<string, number>();
  const ofSetup = new Map<string, number>();
  const strengths = new Map(
    pulls.map(({ id, setup }) => {
      const place = ofSetup.get(setup) ?? 0;
      ofSetup.set(setup, place + 1);
      return [id, OPACITIES[Math.min(place, OPACITIES.length - 1)]!];
    }),
  );
  return drawables.flatMap((drawable) => {
    const { text, change } = shownIn(drawable.unit, drawable.otherwise, drawable.isDifference || less !== null, show);
    const place = perUnit.get(text) ?? 0;
    perUnit.set(text, place + 1);
    const onAxis = (pull: DeskPull) => {
      const series = drawable.of(pull);
      return series && axis === 'engineSpeed' ? overOwnSpeed(series, pull, options) : series;
    };
    const taken = less ? onAxis(less) : null;
    return pulls.flatMap((pull): DeskLine[] => {
      if (pull === less) return [];
      const own = onAxis(pull);
      const series = own && less ? taken && seriesDifference(own, taken) : own;
      if (!series || series.at.length === 0) return [];
      return [
        {
          key: `${pull.id} ${drawable.label}`,
          pull: pull.id,
          setup: pull.setup,
          label: drawable.label,
          checkedAs: drawable.checkedAs,
          unit: text,
          series: { at: series.at, values: series.values.map(change) },
          colour: options.colourOf(pull, place),
          dash: DASHES[place % DASHES.length]!,
          opacity: strengths.get(pull.id)!,
        },
      ];
    });
  });
}

function drawablesOf({ channels, formulas, byFormulaName, samples, show, axis }: LineOptions): Drawable[] {
  const ofChannels = channels.flatMap((channel): Drawable[] => {
    // Engine speed over itself tells nothing.
    if (axis === 'engineSpeed' && channel.quantity === 'engineSpeed') return [];
    const unit = columnUnit(channel, show);
    const of = (pull: DeskPull) => samples.get(sampleKey(pull.id, channel.key)) ?? null;
    return [
      { label: channel.label, checkedAs: checkedAs(channel), unit, otherwise: channel.unitText ?? 'as written', isDifference: false, of },
    ];
  });
  const ofFormulas = formulas.flatMap(({ name, formula }): Drawable[] => {
    if (!formula) return [];
    const { unit, unitText, isDifference } = formula;
    const of = (pull: DeskPull) => {
      const given = new Map(
        formula.names.flatMap((wanted) => {
          const series = samples.get(sampleKey(pull.id, byFormulaName.get(wanted) ?? ''));
          return series ? [[wanted, series] as const] : [];
        }),
      );
      return given.size === formula.names.length ? formula.evaluate(given) : null;
    };
    return [{ label: name, checkedAs: null, unit, otherwise: unitText, isDifference, of }];
  });
  return [...ofChannels, ...ofFormulas];
}

/** A series over the engine speed of its own pull: by the channel of its own device where there is one. */
function overOwnSpeed(series: Series, pull: DeskPull, { samples, byFormulaName }: LineOptions): Series | null {
  const speeds = [...byFormulaName].filter(([name]) => /^engineSpeed(_|$)/.test(name));
  for (const [, key] of speeds) {
    const speed = samples.get(sampleKey(pull.id, key));
    if (speed && speed.at.length > 1) return overSpeed(series, speed);
  }
  return null;
}

/** The same lines, those of one unit together, in the order in which they were first met. */
export function panelsOf(lines: readonly DeskLine[]): { unit: string; lines: DeskLine[] }[] {
  return byUnit(lines, ({ unit }) => unit).map(([unit, own]) => ({ unit, lines: own }));
}

/** Entries by their unit, in the order in which units were first met. */
export function byUnit<T>(entries: readonly T[], unitOf: (entry: T) => string): [unit: string, entries: T[]][] {
  const found = new Map<string, T[]>();
  for (const entry of entries) found.set(unitOf(entry), [...(found.get(unitOf(entry)) ?? []), entry]);
  return [...found];
}
