import {
  airDemandKgS,
  airDemandOfPowerKgS,
  areaForVelocity,
  areasInSeriesM2,
  breakEvenDropPa,
  compress,
  compressorEfficiency,
  compressorPressures,
  coneMedia,
  coolerTest,
  coreAfter,
  correctedFlowKgS,
  correctedSpeedRpm,
  crossflowEffectiveness,
  densityRatio,
  depressionReduction,
  dropAtOtherFlowPa,
  dropOfLaw,
  dryAirDensity,
  effectiveAreaM2,
  fitDropLaw,
  fitRecovery,
  flowAtDepression,
  flowGainOfReduction,
  fromSi,
  gainOfLessRestriction,
  gasTemperatureC,
  inletLossCost,
  loadedDropPa,
  netFlow,
  nozzleAreaM2,
  orificeFlow,
  panelMediaM2,
  plateCheck,
  ramPressure,
  serviceInterval,
  sufficientSpeed,
  toSi,
  traverseFlow,
  volumetricEfficiency,
  type PressureTaps,
  type Strokes,
} from '../../src/index.js';
import type { Formula, Inputs } from './runner.js';

const strokes = (input: Inputs) => input.number('strokes') as Strokes;
const kPa = (input: Inputs, name: string) => input.number(name) * 1000;

function readings(input: Inputs) {
  const drops = input.list('dp_Pa');
  const gas = { viscosityPaS: input.number('mu'), densityKgM3: input.number('rho') };
  return { gas, readings: input.list('V_m3_s').map((volumeFlowM3S, i) => ({ volumeFlowM3S, dropPa: drops[i]!, ...gas })) };
}

function fitVector(input: Inputs) {
  const { gas, readings: list } = readings(input);
  const fit = fitDropLaw(list);
  const predicted = fit.predict(input.number('V_predict_m3_s'), gas);
  const pair = ({ low, high }: { low: number; high: number }) => [low, high];
  return {
    a: fit.law.viscousPerM3,
    b: fit.law.inertialPerM4,
    se_a: fit.standardErrors.viscousPerM3,
    se_b: fit.standardErrors.inertialPerM4,
    ci95_a: pair(fit.intervals.viscousPerM3),
    ci95_b: pair(fit.intervals.inertialPerM4),
    dp_predict: predicted.dropPa,
    ci95_mean_half: predicted.meanHalfWidthPa,
    pi95_half: predicted.readingHalfWidthPa,
  };
}

/** How each vector's inputs of sections d to i reach the core, and its results the vector's units. */
export const FORMULAS_D_TO_I: Record<string, Formula> = {
  d1: (input) => {
    const density = dryAirDensity(kPa(input, 'p_man_kPa'), input.number('t_man_C'));
    const flow = airDemandKgS(input.number('VE'), density, input.number('displacement_L') / 1000, input.number('rpm'), strokes(input));
    return { mdot: flow, mdot_lb_min: fromSi(flow, 'lb/min') };
  },
  d2: (input) => {
    const density = dryAirDensity(kPa(input, 'p_ref_kPa'), input.number('t_ref_C'));
    return {
      VE: volumetricEfficiency(
        input.number('mdot_kg_s'),
        density,
        input.number('displacement_L') / 1000,
        input.number('rpm'),
        strokes(input),
      ),
    };
  },
  d3: (input) => {
    const [fuel, ratio] = [input.number('BSFC_g_kWh'), input.number('AFR')];
    const flow = airDemandOfPowerKgS(input.number('P_kW') * 1000, fuel, ratio);
    const per100hp = airDemandOfPowerKgS(toSi(100, 'hp'), fuel, ratio);
    return { mdot: flow, BSAC: (flow * 3600) / input.number('P_kW'), lb_min_per_100hp: fromSi(per100hp, 'lb/min') };
  },
  e2: (input) => ({ A_eff: effectiveAreaM2(input.number('mdot_kg_s'), input.number('rho'), input.number('dp_Pa')) * 1e4 }),
  e3: (input) => {
    const [flow, pressure, temperature, drop] = [
      input.number('mdot_kg_s'),
      kPa(input, 'p1_kPa'),
      input.number('t1_C'),
      kPa(input, 'dp_kPa'),
    ];
    const { areaM2, choked } = nozzleAreaM2(flow, pressure, temperature, drop, input.number('gamma'));
    return { A_eff: areaM2 * 1e4, A_eff_incompressible: effectiveAreaM2(flow, dryAirDensity(pressure, temperature), drop) * 1e4, choked };
  },
  e4: (input) => {
    const { areaM2, shares } = areasInSeriesM2(input.list('A_cm2').map((area) => area * 1e-4));
    return { A_series: areaM2 * 1e4, share: shares };
  },
  e6: (input) => {
    const law = { viscousPerM3: input.number('a_per_m3'), inertialPerM4: input.number('b_per_m4') };
    const { dropPa, exponent } = dropOfLaw(law, input.number('V_m3_s'), {
      viscosityPaS: input.number('mu'),
      densityKgM3: input.number('rho'),
    });
    return { dp: dropPa, local_exponent: exponent };
  },
  e7: fitVector,
  e7b: (input) => {
    const fit = fitDropLaw(readings(input).readings);
    return {
      a_free: fit.free.viscousPerM3,
      a: fit.law.viscousPerM3,
      b: fit.law.inertialPerM4,
      A_eff_turb: 1e4 / Math.sqrt(2 * fit.law.inertialPerM4),
    };
  },
  e8: (input) => ({ Q2: flowAtDepression(input.number('Q1'), input.number('dp1'), input.number('dp2'), input.number('n')) }),
  e9: (input) => ({ depression_reduction: depressionReduction(input.number('flow_gain'), input.number('n')) }),
  e9b: (input) => ({ flow_gain: flowGainOfReduction(input.number('depression_reduction'), input.number('n')) }),
  e10: (input) => {
    const [test, leak] = [toSi(input.number('dp_test_inH2O'), 'inH2O'), toSi(input.number('dp_leak_inH2O'), 'inH2O')];
    const net = netFlow(toSi(input.number('Q_total_CFM'), 'CFM'), test, toSi(input.number('Q_leak_CFM'), 'CFM'), leak);
    const density = input.number('rho');
    return { Q_net: fromSi(net, 'CFM'), A_eff_net: effectiveAreaM2(net * density, density, test) * 1e4 };
  },
  e11: (input) => {
    const reading = toSi(input.number('Q_bench_CFM'), 'CFM');
    const check = plateCheck(input.number('d_mm') / 1000, input.number('dp_Pa'), input.number('rho'), reading, {
      discharge: input.number('Cd'),
    });
    return { Q_expected: fromSi(check.expectedM3S, 'CFM'), bench_error: check.error, Cd_seen: check.dischargeSeen };
  },
  e12: (input) => {
    const flow = orificeFlow({
      pipeDiameterM: input.number('D_mm') / 1000,
      boreDiameterM: input.number('d_mm') / 1000,
      taps: input.text('taps') as PressureTaps,
      upstreamPa: kPa(input, 'p1_kPa'),
      upstreamC: input.number('t1_C'),
      dropPa: kPa(input, 'dp_kPa'),
      gamma: input.number('gamma'),
    });
    return { C: flow.dischargeCoefficient, epsilon: flow.expansibility, Re_D: flow.reynolds, mdot: flow.massFlowKgS };
  },
  e13: (input) => {
    const point = (massFlowKgS: number, density: string) => ({ massFlowKgS, densityKgM3: input.number(density), viscosityPaS: 1.8e-5 });
    return { dp2: dropAtOtherFlowPa(kPa(input, 'dp1_kPa'), point(1, 'rho1'), point(input.number('m_ratio'), 'rho2')) / 1000 };
  },
  e14: (input) => {
    const gain = gainOfLessRestriction(
      kPa(input, 'p_amb_kPa'),
      kPa(input, 'dp_before_kPa'),
      kPa(input, 'dp_after_kPa'),
      input.number('eta_m'),
    );
    return {
      gain_first_order: gain.firstOrder,
      P_first_order: input.number('P_before_kW') * (1 + gain.firstOrder),
      gain_upper: gain.upper,
    };
  },
  f1: (input) => {
    const flow = traverseFlow(input.list('v_points_m_s'), input.number('area_cm2') * 1e-4, input.number('k_cal'));
    return { v_mean: flow.meanVelocityMS, Q: flow.volumeFlowM3S, Q_CFM: fromSi(flow.volumeFlowM3S, 'CFM') };
  },
  f2: (input) => {
    const { areaM2, diameterM } = areaForVelocity(input.number('mdot_kg_s'), input.number('rho'), input.number('v_limit_m_s'));
    return { A: areaM2 * 1e4, d_equiv: diameterM * 1000 };
  },
  f3: (input) => {
    const result = sufficientSpeed(input.number('mdot_kg_s'), input.number('rho'), input.number('A_cm2') * 1e-4, input.number('C_capture'));
    return { v_km_h: result.speedMS * 3.6, q_dyn: result.dynamicPa };
  },
  f4: (input) => {
    const density = dryAirDensity(kPa(input, 'p_kPa'), input.number('t_C'));
    const { dynamicPa, recoveredPa } = ramPressure(density, input.number('v_km_h') / 3.6, input.number('recovery'));
    return { q_dyn: dynamicPa, dp_recovered: recoveredPa };
  },
  g1: (input) => ({
    A_media: panelMediaM2(
      input.number('pleats'),
      input.number('depth_mm') / 1000,
      input.number('height_mm') / 1000,
      input.number('usable'),
    ),
  }),
  g2: (input) => {
    const { areaM2, slantM } = coneMedia({
      pleats: input.number('pleats'),
      depthBaseM: input.number('depth_base_mm') / 1000,
      depthTopM: input.number('depth_top_mm') / 1000,
      baseDiameterM: input.number('D_base_mm') / 1000,
      topDiameterM: input.number('D_top_mm') / 1000,
      heightM: input.number('height_mm') / 1000,
      usable: input.number('usable'),
    });
    return { slant: slantM * 1000, A_media: areaM2 };
  },
  g4: (input) => {
    const clean = input.number('dp_clean_lam_Pa') + input.number('dp_clean_turb_Pa');
    const resistance = input.number('k_dust_Pa_per_g_m2_per_m_s') * 1000;
    const loaded = loadedDropPa(clean, resistance, input.number('dust_g') / 1000, input.number('A_media_m2'), input.number('Q_m3_s'));
    return { dp_dust: loaded.dustPa, dp_total: loaded.totalPa };
  },
  g5: (input) => ({
    interval: serviceInterval(
      input.number('interval_ref_km'),
      input.number('A_ref_m2'),
      input.number('A_new_m2'),
      input.number('exponent'),
    ),
  }),
  h1: (input) => {
    const result = compressorPressures(
      kPa(input, 'p_amb_kPa'),
      kPa(input, 'dp_inlet_kPa'),
      kPa(input, 'p_man_kPa'),
      kPa(input, 'dp_cooler_kPa'),
    );
    return { p1: result.inletPa / 1000, p2: result.outletPa / 1000, PR: result.ratio };
  },
  h2: (input) => {
    const reference = { temperatureK: input.number('T_ref_K'), pressurePa: kPa(input, 'p_ref_kPa') };
    return {
      mdot_corr: correctedFlowKgS(input.number('mdot_kg_s'), input.number('t1_C'), kPa(input, 'p1_kPa'), reference),
      speed_corr: correctedSpeedRpm(input.number('speed_rpm'), input.number('t1_C'), reference),
    };
  },
  h4: (input) => {
    const result = compress(input.number('t1_C'), input.number('PR'), input.number('eta_c'), input.number('mdot_kg_s'), {
      shaftEfficiency: input.number('eta_mech'),
      specificHeat: input.number('cp'),
      gamma: input.number('gamma'),
    });
    return { t2s: result.idealOutletC, t2: result.outletC, P_shaft: result.shaftPowerW / 1000 };
  },
  h5: (input) => ({ eta_c: compressorEfficiency(input.number('t1_C'), input.number('t2_C'), input.number('PR'), input.number('gamma')) }),
  h7: (input) => {
    const cost = inletLossCost({
      ambientPa: kPa(input, 'p_amb_kPa'),
      inletDropPa: kPa(input, 'dp_inlet_kPa'),
      extraPa: kPa(input, 'extra_kPa'),
      outletPa: kPa(input, 'p2_kPa'),
      inletC: input.number('t1_C'),
      efficiency: input.number('eta_c'),
      massFlowKgS: input.number('mdot_kg_s'),
      coolerEffectiveness: input.number('eps_cooler'),
      gamma: input.number('gamma'),
      specificHeat: input.number('cp'),
    });
    return {
      PR_before: cost.ratioBefore,
      PR_after: cost.ratioAfter,
      dT2: cost.outletRiseK,
      dP_comp: cost.compressionPowerW / 1000,
      dP_comp_rel: cost.compressionShare,
      dT_man: cost.manifoldRiseK,
    };
  },
  i1: (input) => {
    const result = coolerTest({
      chargeInC: input.number('t_in_C'),
      chargeOutC: input.number('t_out_C'),
      coldInC: input.number('t_cool_in_C'),
      chargeFlowKgS: input.number('mdot_air'),
      chargeSpecificHeat: input.number('cp_air'),
      coldFlowKgS: input.number('mdot_cool'),
      coldSpecificHeat: input.number('cp_cool'),
    });
    return {
      temp_ratio: result.temperatureRatio,
      effectiveness: result.effectiveness,
      q: result.heatW / 1000,
      t_cool_out: result.coldOutC,
    };
  },
  i2: (input) => ({ effectiveness: crossflowEffectiveness(input.number('NTU'), input.number('Cr')) }),
  i4: (input) => {
    const [before, after] = [kPa(input, 'p1_kPa'), kPa(input, 'p2_kPa')];
    const ratio = densityRatio(before, after, input.number('t1_C'), input.number('t2_C'));
    return {
      rho_ratio: ratio,
      dp_break_even: breakEvenDropPa(before, input.number('t1_C'), input.number('t2_C')) / 1000,
      net_gain: ratio > 1,
    };
  },
  i6: (input) => {
    const core = {
      heatCapacityJPerK: input.number('C_J_K'),
      massFlowKgS: input.number('mdot_kg_s'),
      specificHeat: input.number('cp'),
      effectiveness: input.number('eps'),
      toAmbientWPerK: input.number('h_W_K'),
      chargeInC: input.number('t_in_C'),
      ambientC: input.number('t_amb_C'),
    };
    const state = coreAfter(core, input.number('t_core0_C'), input.number('time_s'));
    return { tau: state.timeConstantS, t_core_ss: state.steadyC, t_core: state.coreC, t_charge_out: state.chargeOutC };
  },
  i7: (input) => {
    const recovery = fitRecovery(input.list('time_s'), input.list('t_core_C'), input.number('t_amb_C'));
    return { tau_recovery: recovery.timeConstantS, t_half: recovery.halfTimeS };
  },
  i8: (input) => ({ t_gas: gasTemperatureC(input.number('t_sensor_C'), input.number('dTdt_K_s'), input.number('tau_s')) }),
};
