/** The first field of the open dialog whose text is not understood, given the focus; null where all are: what is typed is never passed over. */
export function refusedField(): HTMLElement | null {
  const field = document.querySelector<HTMLElement>('[role=dialog] [aria-invalid=true]');
  field?.focus();
  return field;
}
