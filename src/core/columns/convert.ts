import { asText, type Names } from './format';
import type { Column, Value } from './model';
import { readText, type Vocabulary } from './read';

/** The effect of changing a column's type. */
export interface Conversion {
  /** Each value's new form, and how many papers have it. */
  readonly converts: readonly { readonly from: Value; readonly value: Value; readonly papers: number }[];
  readonly lost: readonly { readonly text: string; readonly says: string; readonly papers: number }[];
  /** Words that a closed list lacks and that can be added to it. */
  readonly newTerms: readonly string[];
}

/**
 * Converts values to another type: writes each as text by the old type and reads that by the new one. Values that cannot
 * be read would be lost, and are listed with the reason.
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
