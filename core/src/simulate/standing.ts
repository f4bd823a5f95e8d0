import type { CarState, PartSet, Weather } from './car.js';

const STEP_S = 2;

/** Between pulls: idling behind the fan, or engine off while parts are swapped. */
export type Standing = 'idle' | 'off';

/**
 * Lets the car stand: bay, box, core, circuit, coolant, oil and sensor go their ways, the engine block heating the bay while the
 * fan is off. The given state is not changed.
 */
export function stand(from: CarState, parts: PartSet, weather: Weather, seconds: number, how: Standing): CarState {
  const state = { ...from };
  const ambient = weather.temperatureC;
  const bayPerS = how === 'idle' ? 1 / 210 : 1 / 900;
  const fromBlockPerS = how === 'idle' ? 1 / 1500 : 1 / 1300;
  const fan = how === 'idle' ? 1 : 0.12;
  for (let t = 0; t < seconds; t += STEP_S) {
    const step = Math.min(STEP_S, seconds - t);
    state.bayC += step * ((ambient - state.bayC) * bayPerS + (state.coolantC - state.bayC) * fromBlockPerS);
    state.boxC += step * ((state.bayC - state.boxC) / 520 + (ambient - state.boxC) / 900);
    const { cooler } = parts;
    if (cooler) {
      const cold = cooler.circuit ? state.circuitC : ambient;
      const given = fan * cooler.coldConductanceWPerK * 0.35 * (state.coreC - cold) + (state.coreC - state.bayC) * 1.5;
      state.coreC -= (step * given) / cooler.heatCapacityJPerK;
      if (cooler.circuit) {
        const { heatCapacityJPerK, radiatorWPerK } = cooler.circuit;
        state.circuitC +=
          (step *
            (fan * (cooler.coldConductanceWPerK * 0.35 * (state.coreC - state.circuitC) - radiatorWPerK * (state.circuitC - ambient)))) /
          heatCapacityJPerK;
      }
    }
    state.coolantC += step * (how === 'idle' ? (86.5 - state.coolantC) / 120 : (ambient - state.coolantC) / 4200);
    state.oilC += step * (how === 'idle' ? (84 - state.oilC) / 700 : (ambient - state.oilC) / 5200);
    const duct = parts.cooler ? state.coreC : state.boxC;
    state.sensorC += step * ((duct - state.sensorC) / 40 + (state.bayC + 6 - state.sensorC) / 110);
  }
  return state;
}
