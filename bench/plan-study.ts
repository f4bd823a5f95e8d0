// What plans promise against what they keep: simulated days of five orders at their smallest resolvable gain, seeds 1…N without omission.
// Usage: npx tsx bench/plan-study.ts [days an order] [turbo|na] [order …]; rests and swaps as in the method's table of orders (5 and 32 min).
import { bundleSchema } from '@gezeit/contract';
import { planReport, scheduled, withConditioning } from '@gezeit/core';
import { addDay, emptyCount, prepareRehearsal, REHEARSAL } from '@gezeit/core/rehearse';

const days = Number(process.argv[2] ?? 200);
const kinds = (['turbo', 'na'] as const).filter((kind) => process.argv[3] === undefined || process.argv[3] === kind);
const orders = process.argv.length > 4 ? process.argv.slice(4) : ['AABB', 'ABBA', 'AAABBB', 'ABBAAB', 'ABBABAAB'];
for (const aspiration of kinds) {
  for (const order of orders) {
    const bundle = bundleSchema.parse({
      format: 'gezeit-bundle',
      version: 1,
      programme: { title: order, bandRpm: [4400, 6600], smallestGainPct: 1, correction: aspiration === 'na' ? 'SAE_J1349' : 'NONE' },
      vehicle: { name: 'v', aspiration, boostControl: aspiration === 'na' ? 'none' : 'absolute' },
      cell: { name: 'c' },
      setups: [
        { id: 'A', name: 'a', reference: true },
        { id: 'B', name: 'b' },
      ],
      pulls: [],
      plan: scheduled({ pulls: withConditioning([...order]), restMin: 5, swapMin: 32 }),
    });
    const [comparison] = planReport(bundle).comparisons;
    const rehearsal = prepareRehearsal(bundle, { ...REHEARSAL, mishap: 0 });
    const count = emptyCount();
    for (let seed = 1; seed <= days; seed++) addDay(count, rehearsal.rehearse(seed, comparison!.smallestResolvablePct));
    const share = (value: number) => `${((100 * value) / count.days).toFixed(1)} %`;
    const error = 100 * Math.sqrt((count.verdicts.gain * (count.days - count.verdicts.gain)) / count.days ** 3);
    console.log(
      `${aspiration} ${order}: half width ${comparison!.halfWidthPct.toFixed(2)} %, true gain ${comparison!.smallestResolvablePct.toFixed(2)} %: gain on ${share(count.verdicts.gain)} ± ${error.toFixed(1)} of ${count.days} days, interval held the truth on ${share(count.held)}`,
    );
  }
}
