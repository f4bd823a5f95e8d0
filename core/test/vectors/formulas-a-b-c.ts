import {
  absolutePressurePa,
  boostedEstimate,
  compressionIgnition,
  compressedVapourPressurePa,
  condensation,
  convert,
  convertCorrected,
  densityAltitudeM,
  dewPointC,
  din70020,
  dryPressurePa,
  fromSi,
  humidityRatio,
  humidityRatioFromWetBulb,
  iso1585Spark,
  massFlowKgS,
  moistAirDensity,
  powerFromTorqueW,
  pressureAltitudeM,
  saeJ1349,
  saeJ1349WithFriction,
  saturationPressureOverIcePa,
  saturationPressurePa,
  stationPressurePa,
  stdJ607,
  toSi,
  unitFromText,
  vapourPressureFromRatioPa,
  vapourPressurePa,
  viscosityPaS,
  volumeFlowAtState,
  type UnitName,
} from '../../src/index.js';
import type { Correction, BoostControl } from '@gezeit/contract';
import type { Inputs, Formula } from './runner.js';

function unit(input: Inputs, name: string): UnitName {
  const text = input.text(name);
  const known = unitFromText(text);
  if (!known) throw new Error(`unknown unit ${text}`);
  return known;
}

const air = (input: Inputs, pressure = 'p_kPa') => ({
  temperatureC: input.number('t_C'),
  pressurePa: input.number(pressure) * 1000,
  relativeHumidity: input.number('RH'),
});

function compressionIgnitionVector(input: Inputs) {
  const result = compressionIgnition({
    standard: input.text('standard') as 'ECE_R85' | 'ISO_1585',
    charging: input.text('aspiration') as 'na' | 'turbo',
    temperatureC: input.number('t_C'),
    dryPa: input.number('p_d_kPa') * 1000,
    fuelKgS: input.number('fuel_g_s') / 1000,
    engineSpeedRpm: input.number('rpm'),
    displacementM3: input.number('displacement_L') / 1000,
    strokes: input.number('strokes') as 2 | 4,
    boostRatio: input.number('r_boost'),
  });
  return {
    fa: result.atmospheric,
    q: result.fuelMgPerLitreCycle,
    qc: result.correctedFuel,
    fm: result.engine,
    alpha_d: result.factor,
    factor_in_window: result.factorInWindow,
  };
}

function condensationVector(input: Inputs) {
  const result = condensation(air(input, 'p1_kPa'), input.number('p2_kPa') * 1000, input.number('t2_C'), input.number('mdot_kg_s'));
  return {
    W1: result.humidityRatioBefore,
    W_sat2: result.humidityRatioSaturated,
    mdot_cond: result.condensateKgS * 1000,
    condenses: result.condenses,
  };
}

/** How each vector's inputs reach the core, and its results the vector's units. */
export const FORMULAS_A_B_C: Record<string, Formula> = {
  a1: (input) => ({ y: convert(input.number('x'), unit(input, 'unit_from'), unit(input, 'unit_to')) }),
  a2: (input) => ({
    p_abs: absolutePressurePa(toSi(input.number('p_gauge'), unit(input, 'unit')), input.number('p_baro_kPa') * 1000) / 1000,
  }),
  a4: (input) => {
    const power = powerFromTorqueW(input.number('torque_Nm'), input.number('rpm'));
    return { P: power / 1000, P_hp: fromSi(power, 'hp') };
  },
  a5: (input) => ({ p_station: stationPressurePa(input.number('QNH_hPa') * 100, input.number('elevation_m')) / 100 }),
  a6: (input) => {
    const standard = { temperatureC: toSi(input.number('t_std_F'), '°F'), pressurePa: input.number('p_std_kPa') * 1000 };
    const actual = { temperatureC: input.number('t_act_C'), pressurePa: input.number('p_act_kPa') * 1000 };
    const flow = input.number('Q_std_CFM');
    return { Q_act: volumeFlowAtState(flow, standard, actual), mdot: massFlowKgS(toSi(flow, 'CFM'), standard) };
  },
  b1: (input) => ({ p_ws: saturationPressurePa(input.number('t_C')) }),
  b2: (input) => ({ p_ws_ice: saturationPressureOverIcePa(input.number('t_C')) }),
  b5: (input) => {
    const state = air(input);
    const vapour = vapourPressurePa(state.relativeHumidity, state.temperatureC);
    return { p_v: vapour / 1000, p_d: dryPressurePa(state) / 1000, W: humidityRatio(vapour, state.pressurePa) };
  },
  b6: (input) => ({ rho: moistAirDensity(air(input)) }),
  b7: (input) => ({
    h_pressure: pressureAltitudeM(input.number('p_kPa') * 1000),
    h_density: densityAltitudeM(moistAirDensity(air(input))),
  }),
  b8: (input) => ({ t_dp: dewPointC(vapourPressurePa(input.number('RH'), input.number('t_C'))) }),
  b9: (input) => {
    const vapour = vapourPressurePa(input.number('RH'), input.number('t_C'));
    const after = compressedVapourPressurePa(vapour, input.number('p1_kPa') * 1000, input.number('p2_kPa') * 1000);
    return { p_v2: after / 1000, t_dp2: dewPointC(after), t_dp1: dewPointC(vapour) };
  },
  b10: condensationVector,
  b11: (input) => {
    const pressurePa = input.number('p_kPa') * 1000;
    const ratio = humidityRatioFromWetBulb(input.number('t_C'), input.number('t_wet_C'), pressurePa);
    return { W: ratio, RH: vapourPressureFromRatioPa(ratio, pressurePa) / saturationPressurePa(input.number('t_C')) };
  },
  b12: (input) => ({ mu: viscosityPaS(input.number('t_C')) }),
  c1: (input) => ({ cf: saeJ1349(input.number('p_d_kPa') * 1000, input.number('t_C')) }),
  c2: (input) => {
    const brake = input.number('P_brake_kW') * 1000;
    const result = saeJ1349WithFriction(input.number('p_d_kPa') * 1000, input.number('t_C'), brake, input.number('P_friction_kW') * 1000);
    return { ca: result.factorOnIndicated, P_corr: result.correctedPowerW / 1000, cf_equiv: result.equivalentFactor };
  },
  c3: (input) => {
    const { ratio, friction85 } = stdJ607(toSi(input.number('p_d_inHg'), 'inHg'), toSi(input.number('t_F'), '°F'));
    return { cf_ratio: ratio, cf_85: friction85 };
  },
  c4: (input) => ({ cf: din70020(input.number('p_total_mbar') * 100, input.number('t_C')) }),
  c5: (input) => {
    const result = iso1585Spark(input.number('p_d_kPa') * 1000, input.number('t_C'));
    return { alpha_a: result.factor, factor_in_window: result.factorInWindow, temperature_in_window: result.temperatureInWindow };
  },
  c6: compressionIgnitionVector,
  c8: (input) => {
    const [from, to] = [input.text('standard_from') as Correction, input.text('standard_to') as Correction];
    const result = convertCorrected(input.number('P_corr_from'), from, to, air(input, 'p_total_kPa'));
    return { P_uncorrected: result.uncorrected, P_corr_to: result.converted };
  },
  c9: (input) => {
    const state = air(input, 'p_amb_kPa');
    const manifold = state.pressurePa + input.number('boost_gauge_kPa') * 1000;
    const result = boostedEstimate(input.text('control') as BoostControl, state, manifold, input.number('n'));
    return { cf_p: result.pressureRatio, cf_est: result.factor, cf_J1349: result.saeJ1349 };
  },
};
