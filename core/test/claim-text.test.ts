import { describe, expect, it } from 'vitest';
import { checkClaim, claimFromText, measurePulls } from '../src/index.js';
import { tablesOf, truthCurve } from '../src/simulate/index.js';
import { calibrationDay } from '../../bench/population.js';

describe('a claim as it is written', () => {
  it.each([
    ['+3.5 kW at 6000 rpm', { quantity: 'power', value: 3.5, unit: 'kW', atRpm: 6000 }],
    ['+3.5 kW at 6,000 rpm', { quantity: 'power', value: 3.5, unit: 'kW', atRpm: 6000 }],
    ['+3,5 kW at 6.000 rpm', { quantity: 'power', value: 3.5, unit: 'kW', atRpm: 6000 }],
    ['at 6 000 rpm it gains 4 kW', { quantity: 'power', value: 4, unit: 'kW', atRpm: 6000 }],
    ['gains 12 hp @ 5500', { quantity: 'power', value: 12, unit: 'hp', atRpm: 5500 }],
    ['12 whp more at 5,500', { quantity: 'power', value: 12, unit: 'hp', atRpm: 5500 }],
    ['+4,2 PS', { quantity: 'power', value: 4.2, unit: 'PS', atRpm: null }],
    [
      '+5.5 kW ± 2 at the wheel between 4,800 and 6,400 rpm',
      { quantity: 'power', value: 5.5, unit: 'kW', bandRpm: [4800, 6400], powerAt: 'wheel' },
    ],
    ['+5.5 kW from 4800 to 6400 rpm', { quantity: 'power', value: 5.5, unit: 'kW', bandRpm: [4800, 6400] }],
    ['4800-6400 rpm: 2 % more', { quantity: 'power', value: 2, unit: '%', bandRpm: [4800, 6400] }],
    ['loses 2 kW', { quantity: 'power', value: -2, unit: 'kW' }],
    ['gains 10 Nm at 3500 rpm', { quantity: 'torque', value: 10, unit: 'N·m', atRpm: 3500 }],
    ['gains 10 N·m', { quantity: 'torque', value: 10, unit: 'N·m' }],
    ['8 lb-ft more', { quantity: 'torque', value: 8, unit: 'lb·ft' }],
    ['8 ft-lbs more', { quantity: 'torque', value: 8, unit: 'lb·ft' }],
    ['3 % more torque', { quantity: 'torque', value: 3, unit: '%' }],
    ['+12 % flow', { quantity: 'flow', value: 12, unit: '%' }],
    ['+2 %', { quantity: 'power', value: 2, unit: '%', atRpm: null }],
    ['2 percent more power', { quantity: 'power', value: 2, unit: '%' }],
    ['50 % less restriction', { quantity: 'restriction', value: -50, unit: '%' }],
    ['a pressure drop lower by 0.7 kPa', { quantity: 'restriction', value: -0.7, unit: 'kPa' }],
    ['0.1 psi less drop', { quantity: 'restriction', value: -0.689476, unit: 'kPa' }],
    ['−8 K', { quantity: 'temperature', value: -8, unit: 'K' }],
    ['charge 10 K cooler', { quantity: 'temperature', value: -10, unit: 'K' }],
    ['charge 18 °F cooler', { quantity: 'temperature', value: -10, unit: 'K' }],
    ['10 degrees cooler', { quantity: 'temperature', value: -10, unit: 'K' }],
    ['no loss in the band', { quantity: 'no-loss' }],
    ['there is no power loss', { quantity: 'no-loss' }],
  ])('“%s” is understood', (text, fields) => {
    expect(claimFromText(text)).toMatchObject({ understood: true, fields });
  });

  it.each(['sounds better', '', '6000 rpm', 'revision 3 of the box', '3.5', 'up to 6,500 rpm', 'Kw', '5 kWh', '12 months'])(
    '“%s” is kept as text',
    (text) => {
      expect(claimFromText(text)).toMatchObject({ understood: false, fields: {} });
    },
  );
});

describe('a claim held against a simulated day whose truth is known', () => {
  /** False claims that may be said, of so many: at most 2.5 % and two standard errors. */
  it('that is false is let through on at most 2.5 % of days, beyond two standard errors; a true one with room is not called false', () => {
    let [falseOnes, letThrough, trueOnes, calledFalse, held] = [0, 0, 0, 0, 0];
    for (let i = 0; i < 24; i += 1) {
      const day = calibrationDay(9400 + i, (['none', 'flow', 'heat'] as const)[i % 3]!);
      const { bundle } = day.simulated;
      const measured = measurePulls(bundle, tablesOf(day.simulated));
      const truthPct = 100 * Math.expm1(day.truth.levelled);
      const candidate = bundle.setups.find(({ reference }) => !reference)!.id;
      const curve = truthCurve(day.spec, day.driven, [bundle.setups[0]!.id, candidate]);
      const atRpm = 5200;
      const claims: [string, boolean][] = [
        ...[0.3, 0.8, 2].map((more): [string, boolean] => [`+${(truthPct + more).toFixed(2)} %`, false]),
        [`${(truthPct - 2.5).toFixed(2)} %`.replace(/^(?=\d)/, '+'), true],
        [`${(100 * Math.expm1(curve(atRpm)) + 1.5).toFixed(2)} % at ${atRpm} rpm`.replace(/^(?=\d)/, '+'), false],
      ];
      for (const [text, isTrue] of claims) {
        const { fields, understood } = claimFromText(text);
        expect(understood, text).toBe(true);
        const { state } = checkClaim(bundle, measured, [], { ...fields, id: 'asked', text, setup: candidate });
        if (isTrue) {
          trueOnes += 1;
          if (state === 'contradicted') calledFalse += 1;
          if (state === 'holds') held += 1;
        } else {
          falseOnes += 1;
          if (state === 'holds') letThrough += 1;
        }
      }
    }
    const most = (of: number) => of * 0.025 + 2 * Math.sqrt(of * 0.025 * 0.975);
    expect(falseOnes).toBe(96);
    expect(letThrough).toBeLessThanOrEqual(most(falseOnes));
    // What is true with room to spare is mostly shown: a checker that refuses everything holds nothing.
    expect(held).toBeGreaterThan(trueOnes / 3);
    expect(calledFalse).toBeLessThanOrEqual(most(trueOnes));
  });
});
