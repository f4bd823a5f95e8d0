import type { PullDetail } from '@gezeit/contract';
import type { DeskChannel } from '@gezeit/core';

/** Where a check found something, to be drawn on the traces: which channel of which pull, s after full throttle. */
export interface CheckMark {
  pull: string;
  channel: string;
  fromS: number;
  toS: number;
}

/** How a check calls a channel: its quantity, with the section of a drop; null where it is none that is known. */
export const checkedAs = ({ quantity, section }: Pick<DeskChannel, 'quantity' | 'section'>): string | null =>
  quantity === 'pressureDrop' && section ? `${quantity}/${section}` : quantity;

/** A mark is drawn at least this wide, s. */
const LEAST_S = 0.1;

/** Where the checks of some pulls found something. */
export function checkMarks(details: readonly PullDetail[]): CheckMark[] {
  return details.flatMap(({ id, flags }) =>
    flags.flatMap(({ where }) =>
      where.map(({ channel, fromS, toS }) => {
        const more = Math.max(0, LEAST_S - (toS - fromS)) / 2;
        return { pull: id, channel, fromS: fromS - more, toS: toS + more };
      }),
    ),
  );
}
