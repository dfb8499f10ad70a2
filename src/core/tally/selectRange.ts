/**
 * Puts `items[from..to)` in the order of a full sort and leaves the rest unsorted: quicksort limited to parts that touch
 * the range (Hoare's quickselect for a range). No two items may compare as equal. About three comparisons per item for a
 * short range.
 */
export function selectRange(
  items: Int32Array,
  compare: (a: number, b: number) => number,
  from: number,
  to: number,
): void {
  const waiting: [number, number][] = [[0, items.length - 1]];
  for (let span = waiting.pop(); span; span = waiting.pop()) {
    const [low, high] = span;
    if (low >= high || high < from || low >= to) continue;
    if (high - low < 12) {
      insertionSort(items, compare, low, high);
      continue;
    }
    const pivot = middleOfThree(items, compare, low, high);
    let [left, right] = [low, high];
    while (left <= right) {
      while (compare(items[left] as number, pivot) < 0) left += 1;
      while (compare(items[right] as number, pivot) > 0) right -= 1;
      if (left > right) break;
      const item = items[left] as number;
      items[left] = items[right] as number;
      items[right] = item;
      left += 1;
      right -= 1;
    }
    waiting.push([low, right], [left, high]);
  }
}

function insertionSort(items: Int32Array, compare: (a: number, b: number) => number, low: number, high: number): void {
  for (let next = low + 1; next <= high; next += 1) {
    const item = items[next] as number;
    let at = next;
    for (; at > low && compare(items[at - 1] as number, item) > 0; at -= 1) items[at] = items[at - 1] as number;
    items[at] = item;
  }
}

function middleOfThree(
  items: Int32Array,
  compare: (a: number, b: number) => number,
  low: number,
  high: number,
): number {
  const three = [low, (low + high) >>> 1, high].map((at) => items[at] as number).sort(compare);
  return three[1] as number;
}
