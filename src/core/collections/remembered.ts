/** Memoises a function of few distinct inputs. Never forgets, so use it for the duration of one task. */
export function remembered<K extends string | number, T>(work: (input: K) => T): (input: K) => T {
  const known = new Map<K, T>();
  return (input) => {
    const there = known.get(input);
    if (there !== undefined) return there;
    const made = work(input);
    known.set(input, made);
    return made;
  };
}
