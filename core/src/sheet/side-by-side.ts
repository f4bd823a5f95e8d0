import type { Bundle, Evidence, Findings, Setup } from '@gezeit/contract';
import { COLD_SIDE_WORDS } from '../words/labels.js';
import { headlineOf } from '../words/headline.js';
import type { Formatter } from '../format/formatter.js';
import { answerWord, QUESTION_LABELS } from '../words/questions/index.js';
import { plain, tied } from '../format/values.js';

/** All setups of a programme beside each other, by everything that was asked or measured of them. */
export interface SideBySide {
  setups: Setup[];
  /** A criterion a row: its words, and a cell a setup; blank where nothing was measured. */
  rows: { label: string; note: string; cells: { text: string; range: string }[] }[];
  /** What the bench found, setup by setup: nothing of it was driven. */
  bench: { setup: string; section: string; title: string; sentence: string; doubts: string[]; by: string }[];
}

type Cell = SideBySide['rows'][number]['cells'][number];
const BLANK: Cell = { text: '–', range: '' };

/** Setups beside each other: the reference first, each answer with its interval, and the bench's findings below. */
export function sideBySideOf(bundle: Bundle, findings: Findings, evidence: readonly Evidence[], f: Formatter): SideBySide {
  const compared = new Set(findings.comparisons.flatMap(({ reference, candidate }) => [reference, candidate]));
  const setups = bundle.setups
    .filter(({ id }) => compared.has(id))
    .sort((a, b) => Number(b.reference ?? false) - Number(a.reference ?? false));
  const rows = [...answerRows(bundle, findings, setups, f), ...coolingRows(findings, setups, f), ...restrictionRows(findings, setups, f)];
  return { setups, rows: rows.filter(({ cells }) => cells.some((cell) => cell !== BLANK)), bench: benchOf(bundle, evidence) };
}

function answerRows({ programme }: Bundle, { comparisons }: Findings, setups: readonly Setup[], f: Formatter): SideBySide['rows'] {
  const asked = [...new Map(comparisons.flatMap(({ answers }) => answers.map(({ question, kind }) => [question, kind] as const)))];
  return asked.map(([question, kind]) => {
    const own = (programme.questions ?? []).find(({ id }) => id === question);
    return {
      label: `${QUESTION_LABELS[kind]}${own?.section ? `, ${own.section}` : ''}`,
      note: 'against the reference',
      cells: setups.map(({ id, bound }): Cell => {
        const comparison = comparisons.find(({ candidate }) => candidate === id);
        const answer = comparison?.answers.find((entry) => entry.question === question);
        if (!answer) return comparisons.some(({ reference }) => reference === id) ? { text: 'reference', range: '' } : BLANK;
        const word = answerWord(kind, answer.answer, bound === true);
        // What is withheld shows no figure that could be read as an answer.
        if (answer.answer === 'withheld') return { text: word, range: '' };
        const { figure } = headlineOf(answer, f);
        return { text: figure || word, range: figure ? word : '' };
      }),
    };
  });
}

const between = (low: number | null, high: number | null, text: (value: number) => string): string =>
  low === null || high === null ? 'no interval' : `${text(low)} to ${text(high)}`;

function coolingRows({ chargeCooling, restriction }: Findings, setups: readonly Setup[], f: Formatter): SideBySide['rows'] {
  const of = (id: string) => chargeCooling.find(({ setup }) => setup === id);
  const side = chargeCooling[0]?.coldSide;
  return [
    {
      label: 'Effectiveness of the cooler',
      note: side ? `against ${COLD_SIDE_WORDS[side]}` : '',
      cells: setups.map(({ id }) => {
        const own = of(id);
        return own ? { text: plain(own.effectiveness, 2), range: between(own.low, own.high, (value) => plain(value, 2)) } : BLANK;
      }),
    },
    {
      label: 'Drop over the cooler',
      note: 'mean in the pull',
      cells: setups.map(({ id }) => {
        // At one flow, with its interval, it stands among the sections.
        const drop = restriction.some(({ section }) => section === 'cooler') ? null : of(id)?.pressureDropKPa;
        return drop == null ? BLANK : { text: f.pressure(1000 * drop), range: '' };
      }),
    },
    {
      label: 'Rise of intake air in the pull',
      note: 'end of the sweep less its start',
      cells: setups.map(({ id }) => {
        const rise = of(id)?.intakeAirRiseK;
        return rise == null ? BLANK : { text: f.temperatureDifference(rise), range: '' };
      }),
    },
  ];
}

function restrictionRows({ restriction }: Findings, setups: readonly Setup[], f: Formatter): SideBySide['rows'] {
  const sections = [...new Set(restriction.map(({ section }) => section))];
  return sections.flatMap((section) => {
    const of = (id: string) => restriction.find((entry) => entry.setup === id && entry.section === section);
    const flow = restriction.find((entry) => entry.section === section)!.atFlowKgS;
    return [
      {
        label: `Drop over the ${section}`,
        note: `at ${f.massFlow(flow)}`,
        cells: setups.map(({ id }) => {
          const own = of(id);
          if (!own) return BLANK;
          return {
            text: `${own.atMost ? '≤ ' : ''}${f.pressure(1000 * own.dropKPa)}`,
            range: between(own.dropLow, own.dropHigh, (value) => f.pressure(1000 * value)),
          };
        }),
      },
      {
        label: `Effective area of the ${section}`,
        note: 'of what goes with the square of flow',
        cells: setups.map(({ id }) => {
          const own = of(id);
          if (!own) return BLANK;
          if (own.effectiveAreaCm2 === null) return { text: 'laminar throughout', range: '' };
          return { text: tied(plain(own.effectiveAreaCm2, 1), 'cm²'), range: between(own.low, own.high, (value) => plain(value, 1)) };
        }),
      },
    ];
  });
}

function benchOf({ setups }: Bundle, evidence: readonly Evidence[]): SideBySide['bench'] {
  const order = new Map(setups.map(({ id }, i) => [id, i]));
  return evidence
    .toSorted((a, b) => (order.get(a.setup ?? '') ?? 99) - (order.get(b.setup ?? '') ?? 99) || (a.at < b.at ? -1 : 1))
    .map(({ setup, section, title, sentence, warnings, by, at }) => ({
      setup: setup ?? '',
      section: section ?? '',
      title,
      sentence,
      doubts: warnings,
      by: `${by}, ${at.slice(0, 10)}`,
    }));
}
