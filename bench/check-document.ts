// Writes docs/checks.md: what the checks of a pull are, from the checks themselves.
// Usage: npm run checks
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { CHECKS, FLAG_WORDS, plausibleText } from '@gezeit/core';

const touched = { power: 'power', temperature: 'temperatures', restriction: 'restriction' };
const doing = ({ leavesOut, suggestsLeavingOut }: (typeof CHECKS)[keyof typeof CHECKS]) =>
  leavesOut
    ? 'leaves the pull out, unless every pull of its setup has it'
    : suggestsLeavingOut
      ? 'suggests to look, and perhaps to leave it out'
      : 'says it';
const rows = Object.values(CHECKS).map((check) => {
  const thresholds = check.thresholds.map(({ value, what }) => `${value}: ${what}`).join(' ');
  return `| ${FLAG_WORDS[check.flag]} | \`${check.flag}\` | ${thresholds || 'a fact'} | ${doing(check)} | ${check.touches.map((what) => touched[what]).join(', ')} |`;
});
const text = `# The checks of a pull

Written by \`npm run checks\` from the checks themselves (\`core/src/checks\`): do not edit it here. What they find, and what they find where nothing
is, is measured by \`npm run bench:checks\`; the last run stands in \`docs/reliability.md\`.

Every check says in a sentence what it found, draws it on the traces, and names what the pull says less about. What leaves a pull out is fixed by
the findings format; everything else is said, and the engineer decides. An outlier, a wobble and learning are weighed down by the judgement already
and never suggest to leave a pull out.

| check | flag | threshold | what it does | touches |
| --- | --- | --- | --- | --- |
${rows.join('\n')}

## What a channel can read in a full-throttle sweep

Outside of these, by the median of the sweep, a channel is called implausible for its name. Far wider than what is usual: another sensor, another
unit, or a broken one. Assumptions.

| channel | from | to |
| --- | --- | --- |
${plausibleText()
  .map(({ name, low, high }) => `| ${name} | ${low} | ${high} |`)
  .join('\n')}
`;
writeFileSync(fileURLToPath(new URL('../docs/checks.md', import.meta.url)), text);
