import { CHANGE_KINDS } from '@gezeit/contract';
import { expect, it } from 'vitest';
import { changeText } from '../src/index.js';

it.each(CHANGE_KINDS)('a change of the kind %s says what it was', (kind) => {
  const told = changeText({ kind, subject: 'logs/p05' });
  expect(told).not.toBe(kind);
  expect(told).toMatch(kind === 'archived' ? /^put away/ : /p05/);
});
