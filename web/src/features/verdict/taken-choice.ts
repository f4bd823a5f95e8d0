import type { ChoiceChange, Comparison } from '@gezeit/contract';
import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import { useExclusion } from '../../model/exclusion-store.js';
import { useProgramme } from '../../model/programme-store.js';

/** The answer as it stood before something was chosen otherwise. */
export interface Before {
  programme: string;
  candidate: string;
  /** What was chosen, in words. */
  what: string;
  answer: string;
  /** The newest change before it, and the pull that is asked about, which may be kept after all. */
  newest: number;
  pull: string | null;
}

/** Takes a choice as the programme's own, and remembers what the answer was, until that is dismissed. */
export const useTakenChoice = defineStore('taken-choice', () => {
  const programme = useProgramme();
  const exclusion = useExclusion();
  const before = shallowRef<Before | null>(null);

  /** Whether a choice can be made the programme's own. */
  function canTake(change: ChoiceChange): boolean {
    return change.what !== 'temperatureExponent' && change.what !== 'smoothing' && !(change.what === 'correction' && change.to === 'C9');
  }

  /** Takes it; the question that leads is changed where it has a metric or a band of its own. */
  async function take(change: ChoiceChange, what: string, comparison: Comparison, question: string | null, answer: string): Promise<void> {
    const id = programme.view!.id;
    const pull = change.what === 'pull' ? change.to : null;
    before.value = { programme: id, candidate: comparison.candidate, what, answer, pull, newest: programme.view!.changes[0]?.id ?? 0 };
    if (change.what === 'pull') {
      exclusion.ask(change.to);
      return;
    }
    if (!(await store(change, what, question))) before.value = null;
  }

  function store(change: ChoiceChange, what: string, question: string | null): Promise<boolean> {
    switch (change.what) {
      case 'correction':
        return programme.edit('programme', what, (now) => (change.to === 'C9' ? now : { ...now, correction: change.to }));
      case 'metric':
        return ofQuestion(what, question, () => ({ metric: change.to }));
      case 'bandLow':
        return ofQuestion(what, question, ([, high]) => ({ bandRpm: [change.to, high] }));
      case 'bandHigh':
        return ofQuestion(what, question, ([low]) => ({ bandRpm: [low, change.to] }));
      case 'drift':
        return programme.edit('assumptions', what, (now) => ({ ...now, drift: 0, walk: 0 }));
      case 'learning':
        return programme.edit('assumptions', what, (now) => ({ ...now, storyDay: 0, storySwap: 0 }));
      case 'powerPerKelvin':
        return programme.edit('assumptions', what, (now) => ({ ...now, startTemperature: change.to, startTemperatureSd: 0 }));
      case 'oil':
        return programme.edit('assumptions', what, (now) => ({ ...now, oilTemperature: 0, oilTemperatureSd: 0 }));
      default:
        return Promise.resolve(false);
    }
  }

  type Changed = { metric?: 'meanPower' | 'peakPower' | 'meanTorque' | 'peakTorque'; bandRpm?: [number, number] };
  function ofQuestion(what: string, question: string | null, change: (band: readonly [number, number]) => Changed): Promise<boolean> {
    return programme.edit('programme', what, (now) => {
      const asked = now.questions?.find(({ id }) => id === question);
      const changed = change(asked?.bandRpm ?? now.bandRpm);
      const isOwn = asked && ((changed.metric && asked.metric != null) || (changed.bandRpm && asked.bandRpm != null));
      if (!isOwn) return { ...now, ...changed };
      return { ...now, questions: now.questions!.map((entry) => (entry.id === question ? { ...entry, ...changed } : entry)) };
    });
  }

  return { before, canTake, take, dismiss: () => (before.value = null) };
});
