import { areaAfterReplacingM2, areasInParallelM2, areasInSeriesM2, INTERACTION_SHARE } from '../../flow/combine-areas.js';
import { depressionReduction } from '../../flow/test-depression.js';
import { numberField } from '../fields.js';
import { figure, percentFigure, type Instrument } from '../instrument.js';

export const areasInstrument: Instrument = {
  id: 'areas',
  title: 'Sections together',
  question: 'What do sections in a row or side by side make, and what would a perfect one buy?',
  sections: [],
  formulas: ['e4', 'e5', 'e9'],
  fields: [
    {
      kind: 'choice',
      name: 'how',
      label: 'They stand',
      why: 'In a row the same air passes each; side by side they share it.',
      choices: { series: 'in a row', parallel: 'side by side' },
      value: 'series',
    },
    {
      kind: 'table',
      name: 'sections',
      label: 'Effective areas',
      why: 'As measured; a measured whole beats a sum.',
      atLeastRows: 1,
      columns: [
        { kind: 'text', name: 'name', label: 'Section', why: 'What it is.' },
        numberField('area', 'Effective area', 'cm²', 'With its discharge coefficient.', { atMost: 0.5, believable: [2e-4, 0.06] }),
      ],
    },
  ],
  read(values) {
    const sections = values.rows('sections').map((row) => ({ name: row.text('name'), area: row.number('area') }));
    const areas = sections.map(({ area }) => area);
    if (values.text('how') === 'parallel') {
      const area = areasInParallelM2(areas);
      return {
        sentence: `Side by side they pass as ${(1e4 * area).toFixed(1)} cm².`,
        figures: [figure('area', 'Effective area', area, 'cm²')],
        rows: sections.map(({ name, area: own }) => ({ row: name, figures: [percentFigure('share', 'Share of the flow', own / area)] })),
        warnings: [],
        charts: [],
      };
    }
    const { areaM2, shares } = areasInSeriesM2(areas);
    const worst = sections[shares.indexOf(Math.max(...shares))]!;
    const rows = sections.map(({ name, area }, i) => {
      const perfect = sections.length > 1 ? areaAfterReplacingM2(areaM2, area, null) : null;
      return {
        row: name,
        figures: [
          percentFigure('share', 'Share of the drop', shares[i]!),
          figure('ifPerfect', 'Whole if it were perfect', perfect, 'cm²'),
          perfect === null
            ? figure('lessDrop', 'Less drop then', null, '%')
            : percentFigure('lessDrop', 'Less drop then', depressionReduction(perfect / areaM2 - 1)),
        ],
      };
    });
    return {
      sentence: `In a row they pass as ${(1e4 * areaM2).toFixed(1)} cm²; ${worst.name} takes most of the drop.`,
      figures: [figure('area', 'Effective area', areaM2, 'cm²')],
      rows,
      warnings:
        sections.length > 1
          ? [`Sections that feed each other closely interact: a sum is good to about ± ${100 * INTERACTION_SHARE} %.`]
          : [],
      charts: [],
    };
  },
};
