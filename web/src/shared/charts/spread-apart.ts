/**
 * Places, in their order, of which some would touch: moved no further than it takes until they stand apart, inside of two ends. Where there is no room
 * for all of them they stand closer, evenly.
 */
export function spreadApart(places: readonly number[], apart: number, from: number, to: number): number[] {
  const closest = Math.min(apart, (to - from) / Math.max(1, places.length - 1));
  let free = from;
  const spread = places.map((place) => {
    const at = Math.max(place, free);
    free = at + closest;
    return at;
  });
  let most = to;
  for (let i = spread.length - 1; i >= 0; i -= 1) {
    spread[i] = Math.min(spread[i]!, most);
    most = spread[i]! - closest;
  }
  return spread;
}
