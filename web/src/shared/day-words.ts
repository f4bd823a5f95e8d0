const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sept', 'Oct', 'Nov', 'Dec'];

/**
 * The day of an instant as `4 Mar 2026`, by the calendar of whoever looks. The browser's own formatter writes the same, but the first one that is made
 * holds up a view for longer than the rest of what is said in it.
 */
export function dayWords(instant: string): string {
  const day = new Date(instant);
  return `${day.getDate()} ${MONTHS[day.getMonth()]} ${day.getFullYear()}`;
}
