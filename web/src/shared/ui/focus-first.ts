import { nextTick } from 'vue';

/**
 * Gives the focus to the first field of what has just been shown, so that what is typed on the key that opened it is not lost; not to the button
 * that closes it, which a space would press.
 */
export async function focusFirst(part: HTMLElement | null): Promise<void> {
  await nextTick();
  const first = part?.querySelector<HTMLElement>('[autofocus]');
  (first ?? part?.querySelector<HTMLElement>('input, textarea, [role=combobox], button'))?.focus();
}
