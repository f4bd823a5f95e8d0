import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { questionKindSchema, type Bundle, type Question } from '@gezeit/contract';
import { filesOf, Random } from '@gezeit/core/simulate';
import { calibrationDay, EFFECTS } from '../../../bench/population.js';

/** A bundle of a random day, as a folder. */
export interface RandomDay {
  seed: number;
  folder: string;
}

/** A day of the calibration's population with terms and questions of its own, some of its pulls left out, and a state that clouds it. */
export function randomDay(seed: number): RandomDay {
  const random = new Random(seed * 6_700_417 + 11);
  const { simulated } = calibrationDay(seed, random.pick([...EFFECTS]));
  const bundle = withTerms(structuredClone(simulated.bundle), random);
  const folder = mkdtempSync(join(tmpdir(), 'gezeit-random-'));
  for (const [file, bytes] of [...filesOf(simulated), ['gezeit.json', JSON.stringify(bundle)] as const]) {
    mkdirSync(dirname(join(folder, file)), { recursive: true });
    writeFileSync(join(folder, file), bytes);
  }
  return { seed, folder };
}

function withTerms(bundle: Bundle, random: Random): Bundle {
  const { programme, setups, pulls } = bundle;
  const [low, high] = programme.bandRpm;
  const hundred = (from: number, to: number) => Math.round(random.between(from, to) / 100) * 100;
  programme.bandRpm = [low + hundred(-300, 400), high + hundred(-400, 100)];
  programme.smallestGainPct = random.pick([0.5, 1, 1.5, 2, 3]);
  programme.metric = random.pick(['meanPower', 'meanPower', 'peakPower', 'meanTorque', 'peakTorque'] as const);
  programme.correction = random.pick(['NONE', 'NONE', 'SAE_J1349', 'DIN_70020', 'ISO_1585'] as const);
  const kinds = questionKindSchema.options.filter(() => random.chance(0.35));
  programme.questions = kinds.map((kind, i): Question => ({
    id: `q${i + 1}`,
    kind,
    ...(random.chance(0.3) ? { start: 'own' as const } : {}),
    ...(random.chance(0.2) ? { smallest: random.pick([0.4, 0.9, 2.5]) } : {}),
    ...(random.chance(0.2) ? { bandRpm: [low + 300, high - 300] as [number, number] } : {}),
  }));
  if (kinds.length === 0) delete programme.questions;
  const last = setups.at(-1)!;
  if (random.chance(0.2)) last.state = { fan: 'off' };
  if (random.chance(0.2)) last.bound = true;
  if (random.chance(0.1)) last.parts = ['inlet', 'cooler', 'filter'];
  setups[0]!.state = random.chance(0.5) ? { fan: 'on' } : {};
  for (const pull of pulls) if (random.chance(0.08)) pull.excluded = 'a door stood open';
  programme.title = `${programme.title}, random`;
  return bundle;
}
