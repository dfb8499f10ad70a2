import { diffWordsWithSpace } from 'diff';
import { z } from 'zod';

/** A stretch of text that two versions share, or that only one of them has. */
const partSchema = z.object({ kind: z.enum(['same', 'added', 'removed']), text: z.string() });

/** Two versions of a text, word by word. */
export const comparisonSchema = z.object({
  parts: z.array(partSchema),
  /** Pages, from 1, whose words the other version has on no page of its own. */
  changedPages: z.object({ one: z.array(z.number().int()), other: z.array(z.number().int()) }),
  /** Whether comparing word by word took too long and was given up; pages are compared all the same. */
  givenUp: z.boolean(),
});
export type Comparison = z.output<typeof comparisonSchema>;

const plain = (page: string): string => page.replace(/\s+/gu, ' ').trim();

/**
 * Compares two texts by page. Line ends do not count, since another width of page moves them.
 * @param timeoutMs after this the words are given up
 */
export function compareTexts(one: readonly string[], other: readonly string[], timeoutMs: number): Comparison {
  const [before, after] = [one.map(plain), other.map(plain)];
  const changed = (pages: readonly string[], elsewhere: readonly string[]): number[] => {
    const known = new Set(elsewhere);
    return pages.flatMap((page, index) => (known.has(page) ? [] : [index + 1]));
  };
  const parts = diffWordsWithSpace(before.join('\n\n'), after.join('\n\n'), { timeout: timeoutMs });
  return {
    // The types leave out that there is nothing after a timeout.
    parts: ((parts as typeof parts | undefined) ?? []).map(({ value, added, removed }) => ({
      kind: added ? 'added' : removed ? 'removed' : 'same',
      text: value,
    })),
    changedPages: { one: changed(before, after), other: changed(after, before) },
    givenUp: (parts as typeof parts | undefined) === undefined,
  };
}
