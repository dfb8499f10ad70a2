/** So many arrivals have to have been filed before what was done with them is taken for usual. */
const fewest = 3;
/** And in so many of them it has to have been done. */
const share = 0.8;

/**
 * What was usually done with arrivals: what was done with four of five at least, and with both of the last two, of three at least.
 * @param done what was done with each, the last one first
 * @returns each with how often, the most frequent first
 */
export function usual(
  done: readonly (readonly string[])[],
): readonly { readonly id: string; readonly times: number }[] {
  if (done.length < fewest) return [];
  const lately = (done[0] ?? []).filter((id) => done[1]?.includes(id));
  return [...new Set(lately)]
    .map((id) => ({ id, times: done.filter((each) => each.includes(id)).length }))
    .filter(({ times }) => times >= share * done.length)
    .toSorted((one, other) => other.times - one.times || (one.id < other.id ? -1 : 1));
}
