import { asText, type Names } from './format';
import type { Column, Value } from './model';
import { readText, type Vocabulary } from './read';

/** How a column's values fare in another type. */
export interface Conversion {
  /** What a value becomes, and how many papers have it. */
  readonly converts: readonly { readonly from: Value; readonly value: Value; readonly papers: number }[];
  readonly lost: readonly { readonly text: string; readonly says: string; readonly papers: number }[];
  /** Words that a closed list lacks: they can be put on it. */
  readonly newTerms: readonly string[];
}

/**
 * What becomes of values when their column takes another type: each is written as text by the old type and read by the
 * new one. What the new type cannot read would be lost, and is listed with the reason. Nothing is written here.
 */
export function convertValues(
  before: Column,
  after: Column,
  values: readonly { readonly value: Value; readonly papers: number }[],
  names: Names,
  vocabulary: Vocabulary,
): Conversion {
  const converts: { from: Value; value: Value; papers: number }[] = [];
  const lost: { text: string; says: string; papers: number }[] = [];
  const newTerms = new Set<string>();
  for (const { value, papers } of values) {
    const text = asText(before, value, names);
    const read = readText({ ...after, open: true }, text, vocabulary);
    if (!read.ok) lost.push({ text, says: read.issue.says, papers });
    else if (read.value.kind === 'new-terms') {
      for (const name of read.value.names) newTerms.add(name);
      lost.push({ text, says: 'It is not on the list.', papers });
    } else if (read.value.value !== null) converts.push({ from: value, value: read.value.value, papers });
  }
  return { converts, lost, newTerms: [...newTerms] };
}
