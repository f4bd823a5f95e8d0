import { describe, expect, it } from 'vitest';
import { claimFromText } from '../src/index.js';
import { claimStudy, mostWrong, together } from '../../bench/claim-days.js';

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
    ['Less restriction: −55.6 % (95 %: −57.6 to −53.4)', { quantity: 'restriction', value: -53.4, unit: '%' }],
    ['+1.9 % (95 %: +0.5 to +3.2) more power', { quantity: 'power', value: 0.5, unit: '%' }],
    ['+1.9 % (+0.5 to +3.2)', { quantity: 'power', value: 0.5, unit: '%' }],
    ['charge −1.2 K (95 %: −1.5 to −0.8)', { quantity: 'temperature', value: -0.8, unit: 'K' }],
    ['+1.9 % (2.5 to 3.2 was hoped for)', { quantity: 'power', value: 1.9, unit: '%' }],
    ['no loss in the band', { quantity: 'no-loss' }],
    ['No loss of 0.5 % or more (mean power at the wheel, 4,000 to 6,600 rpm)', { quantity: 'no-loss', value: 0.5, bandRpm: [4000, 6600] }],
    ['No difference of 1 % or more', { quantity: 'no-difference', value: 1, unit: '%' }],
    ['it makes no difference', { quantity: 'no-difference' }],
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
  it('that is false is let through on at most 2.5 % of days, beyond two standard errors; a true one with room is not called false (70 days by `npm run bench:claims`)', () => {
    const study = claimStudy(9400, 8);
    const [untrue, correct] = [together(study.false), together(study.true)];
    expect(untrue.claims).toBeGreaterThan(45);
    expect(untrue.wrong).toBeLessThanOrEqual(mostWrong(untrue.claims));
    expect(correct.wrong).toBeLessThanOrEqual(mostWrong(correct.claims));
    // What is true with room to spare is mostly shown: a checker that refuses everything holds nothing.
    expect(correct.held).toBeGreaterThan(correct.claims / 3);
  });
});
