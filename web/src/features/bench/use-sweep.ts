import type { BenchInputs } from '@gezeit/contract';
import type { BenchChart, Instrument } from '@gezeit/core';
import { onBeforeUnmount, shallowRef, toRaw, watch, type Ref } from 'vue';
import type { SweepAnswer } from './sweep.worker.js';

/** The slow charts of an instrument, made in a worker; only the answer to the newest question counts. */
export function useSweep(instrument: Ref<Instrument>, inputs: Ref<BenchInputs>) {
  const charts = shallowRef<BenchChart[]>([]);
  const busy = shallowRef(false);
  let worker: Worker | null = null;
  let number = 0;

  function ask(): void {
    number += 1;
    charts.value = instrument.value.sweep ? charts.value : [];
    busy.value = instrument.value.sweep !== undefined;
    if (!instrument.value.sweep) return;
    worker ??= open();
    worker.postMessage({ number, instrument: instrument.value.id, inputs: JSON.parse(JSON.stringify(toRaw(inputs.value))) as BenchInputs });
  }

  function open(): Worker {
    const made = new Worker(new URL('./sweep.worker.ts', import.meta.url), { type: 'module' });
    made.onmessage = ({ data }: MessageEvent<SweepAnswer>) => {
      if (data.number !== number) return;
      charts.value = data.charts;
      busy.value = false;
    };
    // One that broke off answers nothing more: the next question goes to a fresh one.
    made.onerror = () => {
      made.terminate();
      worker = null;
      charts.value = [];
      busy.value = false;
    };
    return made;
  }

  watch([instrument, inputs], ask, { immediate: true, deep: true });
  onBeforeUnmount(() => worker?.terminate());
  return { charts, busy };
}
