/** Arrivals made up to measure how surely a place is proposed: what each of them names, and where it belongs. */
import type { Chance } from '@/core/chance/chance';
import type { ReadArrival } from '@/server/intake/known';
import { mentionsOf } from '@/core/text/mentions';

/** A dossier that may be meant. */
export interface Known {
  readonly id: string;
  readonly name: string;
  readonly reference: string;
  /** From which something was filed there before. */
  readonly senders: readonly string[];
}

/** How people put it. The model was fitted to other words than these. */
export interface Phrases {
  readonly own: readonly string[];
  readonly others: readonly string[];
  readonly nothing: readonly string[];
}

export const unseen: Phrases = {
  own: ['{name} sends you its bill', 'Please quote {reference}', 'On behalf of {name}', '{name} ({reference})'],
  others: ['delivered together with {name}', 'not to be confused with {name}', 'replaces {reference}'],
  nothing: ['Please find enclosed.', 'Hello,', 'See below.'],
};

interface Case {
  readonly read: ReadArrival;
  /** Null: it belongs to none of them. */
  readonly truth: string | null;
}

/** An arrival as they come: mostly plain, some that name another, some that are nobody’s, some from one who writes for several. */
export function madeUpArrival(chance: Chance, known: readonly Known[], { own, others, nothing }: Phrases): Case {
  const [mine, other] = chance.some(known, 2);
  if (!mine || !other) throw new Error('Two dossiers at least are needed');
  const said = (phrase: string, of: Known) => phrase.replace('{name}', of.name).replace('{reference}', of.reference);
  const isNobodys = chance.happens(0.08);
  const words = [chance.pick(nothing)];
  if (!isNobodys && chance.happens(0.75)) words.push(said(chance.pick(own), mine));
  if (chance.happens(0.18)) words.push(said(chance.pick(others), other));
  // Whoever keeps the books of two suppliers sends for both.
  const isShared = !isNobodys && chance.happens(0.08);
  const sender = isShared
    ? (other.senders[0] ?? '')
    : !isNobodys && chance.happens(0.6)
      ? chance.pick([...mine.senders, 'new@elsewhere.example'])
      : `someone${chance.whole(1, 999)}@elsewhere.example`;
  const isAddressed = !isNobodys && chance.happens(0.1);
  const text = words.join('\n');
  return {
    truth: isNobodys ? null : mine.id,
    read: {
      id: crypto.randomUUID(),
      sender,
      sentTo: [isAddressed ? `${mine.reference.toLowerCase()}@library.example` : 'intake@library.example'],
      references: mentionsOf(text).references,
      identifiers: [],
      sheet: null,
      contents: [],
      text,
    },
  };
}
