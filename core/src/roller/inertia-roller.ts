import { positive } from '../input-rules.js';

const RADIANS_PER_S = Math.PI / 30;
/** A change of the ratio of roller to engine speed from which slip is flagged; assumption. */
const SUSPECT_SLIP = 0.02;

/** Power into an inertia roller, W, the force at its surface, N, and what it stands for as mass, kg (formula l1). */
export function rollerPower(inertiaKgM2: number, rollerRpm: number, rollerRpmPerS: number, diameterM: number) {
  const inertia = positive('inertia', inertiaKgM2);
  const radius = positive('diameter', diameterM) / 2;
  const speed = rollerRpm * RADIANS_PER_S;
  const acceleration = rollerRpmPerS * RADIANS_PER_S;
  return {
    powerW: inertia * speed * acceleration,
    surfaceForceN: (inertia * acceleration) / radius,
    equivalentMassKg: inertia / radius ** 2,
    surfaceSpeedMPerS: speed * radius,
  };
}

/** How far roller speed fell behind engine speed between two moments of one gear, and whether that is slip (formula l2). */
export function slipBetween(before: { engineRpm: number; rollerRpm: number }, after: { engineRpm: number; rollerRpm: number }) {
  const ratio = ({ engineRpm, rollerRpm }: { engineRpm: number; rollerRpm: number }) => rollerRpm / positive('engine speed', engineRpm);
  const change = 1 - ratio(after) / ratio(before);
  return { change, suspect: Math.abs(change) > SUSPECT_SLIP };
}

/** Energy that a roller took up between two speeds, J, and the mean power of it, W (formula l3). */
export function rollerEnergy(inertiaKgM2: number, fromRpm: number, toRpm: number, timeS: number) {
  const energyJ = 0.5 * positive('inertia', inertiaKgM2) * ((toRpm * RADIANS_PER_S) ** 2 - (fromRpm * RADIANS_PER_S) ** 2);
  return { energyJ, meanPowerW: energyJ / positive('time', timeS) };
}
