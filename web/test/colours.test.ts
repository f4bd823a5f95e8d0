import { differenceCiede2000, wcagContrast } from 'culori';
import { describe, expect, it } from 'vitest';
import { TOKENS } from '../src/shared/charts/theme.js';
import { SETUP_COLOURS, SETUP_DASHES, setupStyle } from '../src/shared/charts/setup-colours.js';

const difference = differenceCiede2000();

describe.each(['light', 'dark'] as const)('%s theme', (theme) => {
  const tokens = TOKENS[theme];
  it.each(SETUP_COLOURS[theme])('setup colour %s stays clear of the state colours and stands out from the ground', (colour) => {
    for (const state of [tokens.green, tokens.amber, tokens.brick]) expect(difference(colour, state)).toBeGreaterThanOrEqual(20);
    expect(wcagContrast(colour, tokens.ground)).toBeGreaterThanOrEqual(3);
  });

  it('texts have the contrast of WCAG AA on every ground', () => {
    for (const text of [tokens.ink, tokens.muted, tokens.green, tokens.amber, tokens.brick]) {
      for (const ground of [tokens.ground, tokens.surface]) expect(wcagContrast(text, ground)).toBeGreaterThanOrEqual(4.5);
    }
    expect(wcagContrast(tokens.muted, tokens.greenSoft)).toBeGreaterThanOrEqual(3.9);
    expect(wcagContrast(tokens.ink, tokens.greenSoft)).toBeGreaterThanOrEqual(4.5);
  });
});

it('no two of the first twenty-five setups look alike', () => {
  const looks = Array.from({ length: 25 }, (_, index) => JSON.stringify(setupStyle(index, 'light')));
  expect(new Set(looks).size).toBe(25);
  expect(SETUP_DASHES.length).toBe(5);
});
