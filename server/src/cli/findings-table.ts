import type { Bundle, EstimatePct, Findings } from '@gezeit/contract';
import { coolingText, drivePairWords, equalStartText, PLAIN_FORMATTER, resolutionText, roadPairText, stepText } from '@gezeit/core';

/** Findings as a short readable table. */
export function findingsTable({ programme, setups }: Bundle, findings: Findings): string {
  const name = (id: string) => `${id} ${setups.find((setup) => setup.id === id)?.name ?? ''}`.trim();
  const lines = [programme.title, programme.question, ''];
  lines.push(
    ...table(
      ['pull', 'setup', 'status', 'mean kW', 'peak kW', 'at rpm', 'start °C', 'rise K', 'flags and reasons'],
      findings.pulls.map((pull) => [
        pull.id,
        pull.setup,
        pull.status,
        number(pull.meanPowerKW, 1),
        number(pull.peakPowerKW, 1),
        number(pull.peakPowerRpm, 0),
        number(pull.startIntakeAirC, 1),
        number(pull.intakeAirRiseK, 1),
        [...new Set([...pull.reasons, ...pull.flags])].join(', '),
      ]),
    ),
  );
  for (const comparison of findings.comparisons) {
    lines.push(
      '',
      `${name(comparison.candidate)} against ${name(comparison.reference)}, ${comparison.bandUsedRpm.map(Math.round).join('–')} rpm: ${comparison.verdict.power}`,
    );
    lines.push(`  ${comparison.verdict.why}`);
    const estimates = {
      'as run': comparison.asRun,
      levelled: comparison.levelled,
      'own start': comparison.ownStart,
      'same air': comparison.sameAir,
    };
    for (const [label, estimate] of Object.entries(estimates)) lines.push(`  ${label.padEnd(10)} ${shown(estimate)}`);
    for (const { question, answer, why } of comparison.answers) lines.push(`  ${question}: ${answer}. ${why}`);
    for (const { code, detail } of comparison.confounds) lines.push(`  ! ${code}: ${detail}`);
    for (const note of comparison.notes) lines.push(`  ${note}`);
    if (comparison.smallestResolvablePct !== null)
      lines.push(`  These pulls recognise a true gain of ${resolutionText(comparison.smallestResolvablePct)} on four days of five.`);
    if (comparison.morePulls)
      lines.push(`  ${comparison.morePulls} further pulls, in the order A B B A, would resolve ${programme.smallestGainPct} %.`);
    else if (comparison.morePullsReason) lines.push(`  ${comparison.morePullsReason}`);
  }
  const beside = besideThePower(findings);
  if (beside.length > 0) lines.push('', ...beside);
  for (const warning of findings.warnings) lines.push('', `! ${warning}`);
  return lines.join('\n');
}

/** What was found beside the power: heat, the cooler, where a section steps, on the road and in laps. */
function besideThePower({ comparisons, chargeCooling, restriction, road, drives }: Findings): string[] {
  const f = PLAIN_FORMATTER;
  return [
    ...comparisons.flatMap((comparison) => equalStartText(comparison, f) ?? []),
    ...chargeCooling.map((cooling) => coolingText(cooling, f)),
    ...restriction.flatMap((section) => stepText(section, f) ?? []),
    ...road.pairs.map((pair) => roadPairText(pair, f)),
    ...drives.pairs.flatMap((pair) => {
      const { head, lines, note } = drivePairWords(pair, f);
      return [`${head}:`, ...[...lines, note].map((line) => `  ${line}`)];
    }),
  ];
}

function number(value: number | null, digits: number): string {
  return value === null ? '–' : value.toFixed(digits);
}

function shown(estimate: EstimatePct | null): string {
  return estimate ? PLAIN_FORMATTER.interval('percent', { ...estimate, value: estimate.pct }) : '–';
}

function table(header: string[], rows: string[][]): string[] {
  const widths = header.map((cell, column) => Math.max(cell.length, ...rows.map((row) => row[column]!.length)));
  return [header, ...rows].map((row) =>
    row
      .map((cell, column) => cell.padEnd(widths[column]!))
      .join('  ')
      .trimEnd(),
  );
}
