import type { BenchInputs } from '@gezeit/contract';
import { instrumentById, sweep, type BenchChart } from '@gezeit/core';

/** A question to the worker, and its answer under the same number. */
export interface SweepQuestion {
  number: number;
  instrument: string;
  inputs: BenchInputs;
}
export interface SweepAnswer {
  number: number;
  charts: BenchChart[];
}

self.onmessage = ({ data }: MessageEvent<SweepQuestion>) => {
  const instrument = instrumentById(data.instrument);
  self.postMessage({ number: data.number, charts: instrument ? sweep(instrument, data.inputs) : [] } satisfies SweepAnswer);
};
