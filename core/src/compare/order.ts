/** Whether every pull of one setup came before every pull of the other, times in hours. */
export function isOrderConfounded(a: readonly number[], b: readonly number[]): boolean {
  if (a.length === 0 || b.length === 0) return false;
  return Math.max(...a) < Math.min(...b) || Math.max(...b) < Math.min(...a);
}
