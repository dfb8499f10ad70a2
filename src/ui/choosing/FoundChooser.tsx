'use client';

import { Command } from 'cmdk';
import { useDeferredValue, useState } from 'react';
import type { Found } from '@/core/search/contract';
import { Path } from '../kit/path';
import { Stamp } from '../kit/stamp';
import { useAsk } from '../server/useCall';

/** Finds a paper, place or person by name, and hands over the one that is chosen. */
export function FoundChooser({
  label,
  placeholder,
  holds = () => true,
  typed = () => null,
  onChoose,
  onTyped,
}: {
  readonly label: string;
  readonly placeholder: string;
  /** Which of what is found is offered; all of it where this is left out. */
  readonly holds?: (found: Found) => boolean;
  /** What the words mean where they can be chosen themselves, as an address can; null where they cannot. */
  readonly typed?: (words: string) => string | null;
  readonly onChoose: (found: Found) => void;
  readonly onTyped?: (words: string) => void;
}) {
  const [words, setWords] = useState('');
  const asked = useDeferredValue(words.trim());
  const { data } = useAsk('find', { words: asked.slice(0, 200) }, { enabled: asked !== '' });
  const offered = data?.filter(holds) ?? [];
  const itself = typed(words.trim());
  return (
    <Command shouldFilter={false} label={label} className="rounded-sm border border-edge">
      <Command.Input
        autoFocus
        value={words}
        onValueChange={setWords}
        placeholder={placeholder}
        className="h-[36px] w-full rounded-t-sm border-b border-line bg-sheet px-3 text-base placeholder:text-soft"
      />
      <Command.List className="h-[200px] overflow-y-auto p-1">
        {asked !== '' && data && offered.length === 0 && itself === null && (
          <p className="px-2 py-3 text-sm text-soft">Nothing found for “{asked}”.</p>
        )}
        {itself !== null && (
          <Command.Item
            value="typed"
            onSelect={() => onTyped?.(words.trim())}
            className="cursor-pointer rounded-sm px-2 py-1.5 data-[selected=true]:bg-brine-wash"
          >
            {itself}
          </Command.Item>
        )}
        {offered.map((found) => (
          <Command.Item
            key={found.id}
            value={found.id}
            onSelect={() => onChoose(found)}
            className="flex cursor-pointer items-center gap-2 rounded-sm px-2 py-1.5 data-[selected=true]:bg-brine-wash"
          >
            {found.stamp && <Stamp word={found.stamp} />}
            <span className="truncate font-medium">{found.name}</span>
            <Path
              steps={found.about === null ? found.path : [found.about]}
              className="ml-auto max-w-[45%] shrink-0 text-sm text-soft"
            />
          </Command.Item>
        ))}
      </Command.List>
    </Command>
  );
}
