/** The same function, but that what it makes of an object is kept as long as the object is: it must say nothing else the second time. */
export function madeOnce<K extends object, V>(make: (of: K) => V): (of: K) => V {
  const kept = new WeakMap<K, { made: V }>();
  return (of) => {
    const known = kept.get(of) ?? { made: make(of) };
    kept.set(of, known);
    return known.made;
  };
}
