export * from './quantities.js';
export * from './assumptions.js';
export * from './bench.js';
export * from './bundle.js';
export * from './findings.js';
export * from './plan.js';
export * from './day.js';
export * from './api.js';
export { z } from './zod.js';
