/** Power, W, of a torque, N·m, at an engine speed, rpm: P = M · 2πn/60 (formula a4). */
export function powerFromTorqueW(torqueNm: number, engineSpeedRpm: number): number {
  return (torqueNm * 2 * Math.PI * engineSpeedRpm) / 60;
}

/** Torque, N·m, of a power, W, at an engine speed, rpm; NaN at standstill (formula a4). */
export function torqueFromPowerNm(powerW: number, engineSpeedRpm: number): number {
  return engineSpeedRpm === 0 ? Number.NaN : (powerW * 60) / (2 * Math.PI * engineSpeedRpm);
}
