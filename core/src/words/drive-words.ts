import type { DriveFinding, DrivePair, LapFigure } from '@gezeit/contract';
import type { FigureKind, Formatter } from '../format/formatter.js';
import { quantityWords } from '../channels/quantity-words.js';
import { plain, sentence, signed, tied } from '../format/values.js';

/** How a figure of laps is said: what it is, the kind of its difference and by what that comes from what is kept, and the figure itself. */
interface FigureWords {
  words: string;
  kind: FigureKind;
  scale?: number;
  said(value: number, f: Formatter): string;
}

const temperature = (value: number, f: Formatter) => f.temperature(value);
const FIGURES: Readonly<Record<LapFigure, FigureWords>> = {
  seconds: { words: 'a lap takes', kind: 'seconds', said: (value) => tied(plain(value, 2), 's') },
  fullThrottleShare: {
    words: 'at full throttle, per cent of the time',
    kind: 'percent',
    scale: 100,
    said: (value) => tied(plain(100 * value, 0), '%'),
  },
  intakeAirMeanC: { words: 'intake air on average', kind: 'temperatureDifference', said: temperature },
  aboveAmbientK: {
    words: 'intake air above ambient',
    kind: 'temperatureDifference',
    said: (value, f) => tied(plain(f.shownValue(value, 'K', true), 1), f.shownUnit('K', true)),
  },
  intakeAirPeakC: { words: 'intake air at most', kind: 'temperatureDifference', said: temperature },
  coolantPeakC: { words: 'coolant at most', kind: 'temperatureDifference', said: temperature },
};

/** What the laps of two setups differ by, in words: who against whom, a sentence for each figure, and what its intervals are. */
export interface DrivePairWords {
  head: string;
  lines: string[];
  note: string;
}

/** Writes it in a formatter's units; the mean of intake air is left out where it is known less the ambient. */
export function drivePairWords({ reference, candidate, laps, drives, between, figures }: DrivePair, f: Formatter): DrivePairWords {
  const from = drives.candidate === 1 && drives.reference === 1 ? 'one drive each' : `${drives.candidate} and ${drives.reference} drives`;
  const isLessAmbient = figures.some(({ of }) => of === 'aboveAmbientK');
  return {
    head: `${candidate} against ${reference}, ${laps.candidate} and ${laps.reference} laps of ${from}`,
    lines: figures
      .filter(({ of }) => of !== 'intakeAirMeanC' || !isLessAmbient)
      .map(({ of, reference: own, difference: { value, low, high } }) => {
        const { words, kind, scale = 1, said } = FIGURES[of];
        const difference =
          low === null || high === null
            ? `${f.figure(kind, scale * value)} (one each: no interval)`
            : f.interval(kind, { value: scale * value, low: scale * low, high: scale * high });
        return `${sentence(words)}: ${said(own, f)} with ${reference}, with ${candidate} ${difference}.`;
      }),
    note:
      between === 'laps'
        ? 'The intervals are between laps: tyres, fuel, traffic and weather that differ from drive to drive are not in them. Drive each setup at least twice, in turns.'
        : 'The intervals are between drives.',
  };
}

/** How a quantity went over the distance of a drive. */
export interface CourseWords {
  quantity: string;
  words: string;
  mean: string;
  /** Over what was driven. */
  drift: string;
  says: string;
}

type Course = DriveFinding['courses'][number];
type Ends = { value: number; low: number | null; high: number | null };

/** Writes it for a distance, m: a warm-up of 20 km is no drift over a hundred. */
export function courseWords({ quantity, aboveAmbient, mean, perHundredKm }: Course, distanceM: number, f: Formatter): CourseWords {
  const isTemperature = quantity.endsWith('Temperature');
  const unit = isTemperature
    ? f.shownUnit(aboveAmbient ? 'K' : '°C', aboveAmbient)
    : quantity === 'lambda'
      ? ''
      : quantity.endsWith('Trim')
        ? '%'
        : '°';
  const digits = quantity === 'lambda' ? 3 : 2;
  const difference = (value: number) => (isTemperature ? f.shownValue(value, 'K', true) : value);
  const own = (value: number) =>
    isTemperature ? plain(aboveAmbient ? difference(value) : f.shownValue(value, '°C'), 1) : plain(value, digits);
  const driven = (value: number) => signed((distanceM / 100_000) * difference(value), digits);
  const range = ({ value, low, high }: Ends, text: (value: number) => string) =>
    low === null || high === null ? text(value) : `${text(value)} (${text(low)} to ${text(high)})`;
  return {
    quantity,
    words: `${sentence(quantityWords(quantity))}${aboveAmbient ? ', above ambient' : ''}${unit ? `, ${unit}` : ''}`,
    mean: range(mean, own),
    drift: perHundredKm ? range(perHundredKm, driven) : '–',
    says: perHundredKm ? driftWord(perHundredKm) : '–',
  };
}

function driftWord({ low, high }: Ends): string {
  if (low === null || high === null) return '–';
  if (low > 0) return 'goes up';
  return high < 0 ? 'goes down' : 'none told';
}
