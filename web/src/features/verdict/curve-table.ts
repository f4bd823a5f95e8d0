import { channelWord } from '@gezeit/core';
import { drawn } from '../../shared/units/show.js';
import { besideUnit, besideValue } from './beside-unit.js';
import type { CurveInput } from './curve-figure.js';

/** The figures behind the curves, for CSV. */
export function curveTable({
  curves,
  reference,
  candidate,
  difference,
  show,
}: CurveInput): { header: string; values: (number | null)[] }[] {
  const setups = [reference, candidate].flatMap(({ setup }) => {
    const curve = curves.setups.find((entry) => entry.setup === setup.id);
    if (!curve) return [];
    const power = (values: (number | null)[]) => values.map((value) => (value === null ? null : drawn([value], show.units.power)[0]!));
    const torque = (values: (number | null)[]) => values.map((value) => (value === null ? null : drawn([value], show.units.torque)[0]!));
    return [
      { header: `${setup.id} engine speed [rpm]`, values: curve.engineSpeedRpm },
      { header: `${setup.id} power [${show.units.power}]`, values: power(curve.powerW) },
      { header: `${setup.id} power low [${show.units.power}]`, values: power(curve.powerLowW) },
      { header: `${setup.id} power high [${show.units.power}]`, values: power(curve.powerHighW) },
      { header: `${setup.id} torque [${show.units.torque}]`, values: torque(curve.torqueNm) },
    ];
  });
  if (!difference) return setups;
  return [
    ...setups,
    { header: 'difference engine speed [rpm]', values: difference.engineSpeedRpm },
    { header: 'difference [%]', values: difference.pct },
    { header: 'difference low [%]', values: difference.lowPct },
    { header: 'difference high [%]', values: difference.highPct },
    { header: 'whole curve low [%]', values: difference.wholeLowPct },
    { header: 'whole curve high [%]', values: difference.wholeHighPct },
    ...difference.channels.flatMap((channel) => [
      { header: `${channelWord(channel.key)} engine speed [rpm]`, values: channel.engineSpeedRpm },
      {
        header: `${channelWord(channel.key)} difference [${besideUnit(channel, show)}]`,
        values: channel.value.map(besideValue(channel, show)),
      },
    ]),
  ];
}
