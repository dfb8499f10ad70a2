'use client';

import { useState } from 'react';
import type { InputOf } from '@/core/contract';
import { useAsk } from './useCall';

/**
 * People, dossiers or papers to pick from as one types.
 * @param enabled whether anything is looked for at all; by default always
 * @returns what was found, and what a `Pick` needs to show it
 */
export function useChoices(kind: InputOf<'values.choices'>['kind'], enabled: (words: string) => boolean = () => true) {
  const [words, setWords] = useState('');
  const asks = enabled(words);
  const { data, isPending, isPlaceholderData } = useAsk(
    'values.choices',
    { kind, words: words.slice(0, 200) },
    { keepPrevious: true, enabled: asks },
  );
  const found = data ?? [];
  return {
    words,
    found,
    asking: { items: found, onWords: setWords, answered: !asks || !(isPending || isPlaceholderData) },
  };
}
