import type { PullFlag, PullDetail } from '@gezeit/contract';

/** One thing that is looked at when a pull closes. */
export interface PullCheck {
  id: string;
  label: string;
  /** `unknown`: nothing logged says. */
  state: 'good' | 'bad' | 'note' | 'unknown';
  detail: string;
}

interface Looked {
  id: string;
  label: string;
  flags: readonly PullFlag[];
  /** Channels of which one must be logged for the check to mean anything. */
  needs: readonly string[];
}

/** What is looked at, in this order. */
const LOOKED: readonly Looked[] = [
  { id: 'throttle', label: 'Full throttle', flags: ['throttle-closed'], needs: ['throttle', 'pedal'] },
  { id: 'range', label: 'Speed range', flags: ['short'], needs: ['power', 'torque'] },
  { id: 'start', label: 'Start state', flags: ['started-hot', 'started-cold'], needs: [] },
  { id: 'slip', label: 'Slip', flags: ['slip'], needs: ['rollerSpeed', 'vehicleSpeed'] },
  { id: 'spike', label: 'Spikes', flags: ['spike'], needs: ['power', 'torque'] },
  { id: 'spark', label: 'Spark pulled', flags: ['timing-pulled'], needs: ['knockRetard', 'ignitionAdvance'] },
  { id: 'boost', label: 'Boost', flags: ['boost-low'], needs: ['manifoldPressure', 'boostPressure'] },
  { id: 'mixture', label: 'Mixture', flags: ['lean'], needs: ['lambda'] },
  { id: 'air', label: 'Air mass', flags: ['air-meter-implausible'], needs: ['airMassFlow'] },
];

/** The checks of a pull from its flags and from what was logged of it. */
export function pullChecks(flags: readonly PullDetail['flags'][number][], logged: readonly string[], startKnown: boolean): PullCheck[] {
  return LOOKED.map(({ id, label, flags: own, needs }) => {
    const found = flags.find(({ flag }) => own.includes(flag));
    if (found) return { id, label, state: found.leavesOut ? 'bad' : 'note', detail: found.detail };
    const isKnown = id === 'start' ? startKnown : needs.some((channel) => logged.includes(channel));
    return isKnown ? { id, label, state: 'good', detail: 'as it should be' } : { id, label, state: 'unknown', detail: 'not logged' };
  });
}
