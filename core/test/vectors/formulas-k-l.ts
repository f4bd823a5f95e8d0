import { correctedTrace, rollerEnergy, rollerPower, rotatingMass, slipBetween, wheelPower } from '../../src/index.js';
import type { Formula } from './runner.js';

/** Road pulls and inertia rollers, and the sampled sensor, as their vectors name them. */
export const FORMULAS_K_L: Record<string, Formula> = {
  i8b: (input) => ({ t_gas: correctedTrace(input.list('time_s'), input.list('t_sensor_C'), input.number('tau_s')).slice(1, -1) }),
  k1: (input) => {
    const load = {
      massKg: input.number('mass_kg'),
      massFactor: input.number('mass_factor'),
      dragAreaM2: input.number('CdA_m2'),
      rollingResistance: input.number('Crr'),
      airDensityKgM3: input.number('rho'),
      grade: input.number('grade'),
      headwindMPerS: input.number('headwind_m_s'),
    };
    const { inertiaN, rollingN, gradeN, dragN, powerW } = wheelPower(load, input.number('v_km_h') / 3.6, input.number('accel_m_s2'));
    return { F_inertia: inertiaN, F_roll: rollingN, F_grade: gradeN, F_aero: dragN, P_wheel: powerW / 1000 };
  },
  k2: (input) => {
    const parts = {
      wheelsKgM2: input.number('I_wheels_kgm2'),
      engineKgM2: input.number('I_engine_kgm2'),
      totalRatio: input.number('ratio_total'),
      tyreRadiusM: input.number('tyre_radius_m'),
    };
    const { equivalentKg, massFactor } = rotatingMass(parts, input.number('mass_kg'));
    return { m_rot: equivalentKg, mass_factor: massFactor };
  },
  l1: (input) => {
    const roller = rollerPower(
      input.number('I_kgm2'),
      input.number('roller_rpm'),
      input.number('roller_rpm_per_s'),
      input.number('D_roller_m'),
    );
    return {
      P: roller.powerW / 1000,
      F_surface: roller.surfaceForceN,
      m_equiv: roller.equivalentMassKg,
      v_surface: roller.surfaceSpeedMPerS * 3.6,
    };
  },
  l2: (input) => {
    const { change, suspect } = slipBetween(
      { engineRpm: input.number('engine_rpm_1'), rollerRpm: input.number('roller_rpm_1') },
      { engineRpm: input.number('engine_rpm_2'), rollerRpm: input.number('roller_rpm_2') },
    );
    return { slip_change: change, suspect };
  },
  l3: (input) => {
    const { energyJ, meanPowerW } = rollerEnergy(
      input.number('I_kgm2'),
      input.number('rpm_start'),
      input.number('rpm_end'),
      input.number('time_s'),
    );
    return { E: energyJ / 1000, P_mean: meanPowerW / 1000 };
  },
};
