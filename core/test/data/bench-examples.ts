import type { BenchInputs } from '@gezeit/contract';
import { inventedCompressorMap } from '../../src/index.js';

const sheet = (item: string, role: string, flows: [number, number][]) => flows.map(([depression, flow]) => ({ role, item, depression, flow, temperature: null }));

/** Inputs that every instrument can be read with, where its defaults alone do not do. */
export const EXAMPLES: Record<string, BenchInputs> = {
  'air-demand': { logged: [{ engineSpeed: 3000, airMassFlow: 0.07 }, { engineSpeed: 6500, airMassFlow: 0.15 }] },
  'intake-sources': {
    sources: [
      { name: 'bay', rise: 22, loss: 200 },
      { name: 'grille', rise: 3, loss: 900 },
    ],
  },
  opening: { after: [9.1, 9.3, 9.2] },
  'flow-bench': {
    readings: [
      ...sheet('', 'plate', [[2500, 0.0762], [2500, 0.0764]]),
      ...sheet('blanked', 'leak', [[2500, 0.0005]]),
      ...sheet('stock duct', 'part', [[1500, 0.0885], [2500, 0.1143], [2500, 0.1146], [4000, 0.1447]]),
      ...sheet('new duct', 'part', [[1500, 0.0962], [2500, 0.1242], [2500, 0.1245], [4000, 0.1571]]),
    ],
  },
  filter: {
    filters: [
      { name: 'stock panel', shape: 'panel', pleats: 60, depth: 0.025, length: 0.18, usable: 0.9, cleanDrop: 900, efficiency: 0.99, cost: 20, noise: 74 },
      { name: 'cone', shape: 'cone', pleats: 72, depth: 0.022, length: 0.16, topDepth: 0.016, baseDiameter: 0.15, topDiameter: 0.11, thickness: 0.001, usable: 0.95, cleanDrop: 700, efficiency: 0.985, cost: 60, noise: 79 },
    ],
  },
  'fuel-witness': {
    setups: [
      { name: 'A', engineSpeed: 6000, meter: 0.15, open: 0.0095, lambda: 0.88, drop: 300_000 },
      { name: 'B', engineSpeed: 6000, meter: 0.157, open: 0.0096, lambda: 0.88, drop: 300_000 },
    ],
  },
  compressor: {
    setups: [
      { name: 'A', flow: 0.14, inletLoss: 4000, manifold: 205_000, coolerLoss: 8000, inlet: 28 },
      { name: 'B', flow: 0.14, inletLoss: 2500, manifold: 205_000, coolerLoss: 8000, inlet: 28 },
    ],
    map: inventedCompressorMap().points.map(({ speedRpm, flowKgS, ratio, efficiency }) => ({ speed: speedRpm, flow: flowKgS, ratio, efficiency })),
  },
  cooler: {
    coldFlow: 0.6,
    coolers: [
      { name: 'stock', chargeOut: 55, drop: 7000, faceArea: 0.12, transfer: 2200 },
      { name: 'larger', chargeOut: null, drop: 9000, faceArea: 0.2, transfer: 2500 },
    ],
  },
  'charge-volume': {
    variants: [
      { name: 'stock', core: 2.4e-3, pipeBore: 0.05, pipeLength: 1.9 },
      { name: 'larger', core: 5.1e-3, pipeBore: 0.063, pipeLength: 2.1 },
    ],
  },
  condensation: { wall: 30 },
  'core-recovery': { cooling: [[0, 70], [20, 57.9], [40, 49.4], [60, 43.3], [90, 37.1], [120, 33.4]].map(([time, temperature]) => ({ time: time!, temperature: temperature! })) },
  areas: { sections: [{ name: 'duct', area: 30e-4 }, { name: 'filter', area: 40e-4 }] },
  'leak-test': { decay: [0, 60, 120, 180].map((time) => ({ time, pressure: 70_000 - 4 * time, temperature: 20 })) },
};
