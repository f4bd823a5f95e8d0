// The worker where nothing is built (in tests): through the same loader that runs the source.
import { register } from 'tsx/esm/api';

register();
const worker = await import('./worker.ts');
const readBundleInto = worker.import;

export { readBundleInto as import };
export const { keepFile, readStage, writeStaged, addStaged, rereadLogs, analyse, curves, choices, card, claim } = worker;
