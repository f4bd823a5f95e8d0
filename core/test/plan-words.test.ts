import { enoughText, lengthText, lettersOf } from '../src/index.js';
import { describe, expect, it } from 'vitest';

describe('words of a plan', () => {
  it('tell its length, its order and whether it is enough', () => {
    expect(lengthText(84)).toBe('1 h 24 min');
    expect(lengthText(59.6)).toBe('1 h 00 min');
    expect(
      lettersOf([
        { setup: 'A', kind: 'conditioning' },
        { setup: 'A', kind: 'measured' },
        { setup: 'B', kind: 'measured' },
      ]),
    ).toBe('a A B');
    expect(enoughText(0.9, 1)).toBe('enough for what matters');
    expect(enoughText(1.05, 1)).toBe('blind between 1 and 1.05\u00a0%');
  });
});
