import { nanoid } from 'nanoid';
import { usePerson } from '../person-store.js';

const KEY = 'gezeit.seat';

/** What this browser calls itself: its windows share what they have not sent yet, and are one seat. */
export const seat = keptSeat();

function keptSeat(): string {
  try {
    const made = localStorage.getItem(KEY) ?? nanoid();
    localStorage.setItem(KEY, made);
    return made;
  } catch {
    // A browser that keeps nothing has another seat after each reload.
    return nanoid();
  }
}

/** Headers that say who asks, and from which seat. */
export const whoAsks = (): Record<string, string> => ({ 'x-gezeit-person': encodeURIComponent(usePerson().stamp), 'x-gezeit-seat': seat });
