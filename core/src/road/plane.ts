/** A place on earth, degrees. */
export interface Place {
  latitude: number;
  longitude: number;
}
/** A place on the plane about an origin, m east and north of it. */
export interface PlanePoint {
  x: number;
  y: number;
}

const EARTH_RADIUS_M = 6_371_000;
const RADIANS = Math.PI / 180;

/** Places as m east and north of an origin: a plane that touches the earth there, good for the few km of a track (any textbook of surveying). */
export function planeAt(origin: Place): (place: Place) => PlanePoint {
  const shrink = Math.cos(origin.latitude * RADIANS);
  return ({ latitude, longitude }) => ({
    x: (longitude - origin.longitude) * RADIANS * EARTH_RADIUS_M * shrink,
    y: (latitude - origin.latitude) * RADIANS * EARTH_RADIUS_M,
  });
}

/** A point of the plane about an origin as a place on earth. */
export function placeOf(origin: Place, { x, y }: PlanePoint): Place {
  const shrink = Math.cos(origin.latitude * RADIANS);
  return {
    latitude: origin.latitude + y / (RADIANS * EARTH_RADIUS_M),
    longitude: origin.longitude + x / (RADIANS * EARTH_RADIUS_M * shrink),
  };
}

/** The way from one point to another. */
export const moved = (from: PlanePoint, to: PlanePoint): PlanePoint => ({ x: to.x - from.x, y: to.y - from.y });

/** Half as wide as a track is taken to be, m, where a line is put across it by one point. An assumption. */
const HALF_WIDTH_M = 15;

/** A line across the track where it is passed at one point: at right angles to the way between its neighbours; null where nothing moves there. */
export function lineAcross(places: readonly Place[], index: number): { from: Place; to: Place } | null {
  const origin = places[index]!;
  const plane = planeAt(origin);
  for (let reach = 1; reach <= 10; reach += 1) {
    const way = moved(plane(places[Math.max(0, index - reach)]!), plane(places[Math.min(places.length - 1, index + reach)]!));
    const length = Math.hypot(way.x, way.y);
    if (length < 2) continue;
    const half = { x: (-way.y / length) * HALF_WIDTH_M, y: (way.x / length) * HALF_WIDTH_M };
    return { from: placeOf(origin, { x: -half.x, y: -half.y }), to: placeOf(origin, half) };
  }
  return null;
}
