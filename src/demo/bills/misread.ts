import type { Chance } from '@/core/chance/chance';

/** Letters and digits that are taken for others where a page is poor (common practice, no source). */
const taken: Readonly<Record<string, string>> = {
  ...{ '0': 'O', '1': 'l', '5': 'S', '6': '8', '8': '6', '3': '8', '7': '1' },
  ...{ O: '0', l: '1', S: '5', e: 'c', n: 'm', '.': ',', ',': '.', o: '0', i: 'l' },
};

/** Words as they are read off a poor scan. @param share of the words that are misread; one in four of those is lost altogether */
export function misread<W extends { readonly text: string }>(words: readonly W[], share: number, chance: Chance): W[] {
  return words.flatMap((word) => {
    if (!chance.happens(share)) return [word];
    if (chance.happens(0.25)) return [];
    const signs = [...word.text];
    const at = chance.whole(0, signs.length - 1);
    signs[at] = taken[signs[at] ?? ''] ?? signs[at] ?? '';
    return [{ ...word, text: signs.join('') }];
  });
}
