import { expect, it } from 'vitest';
import { dayWords } from '../src/shared/day-words.js';

it('days are written as the browser’s formatter writes them, every day of four years and on both sides of midnight', () => {
  const formatter = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium' });
  const HOUR_MS = 3_600_000;
  for (let ms = Date.UTC(2024, 0, 1); ms < Date.UTC(2028, 0, 1); ms += 11 * HOUR_MS) {
    const instant = new Date(ms).toISOString();
    expect(dayWords(instant)).toBe(formatter.format(ms));
  }
});
