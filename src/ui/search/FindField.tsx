'use client';

import { Command } from 'cmdk';
import { usePathname, useRouter } from 'next/navigation';
import { useDeferredValue, useEffect, useRef, useState, type ReactNode } from 'react';
import type { Found } from '@/core/search/contract';
import { Path } from '../kit/path';
import { Marked } from '../kit/marked';
import { Stamp } from '../kit/stamp';
import { useWaitingEnter } from '../kit/useWaitingEnter';
import { useAsk } from '../server/useCall';
import { findAddress } from './FindRoom';

const groups: readonly (readonly [heading: string, holds: (found: Found) => boolean])[] = [
  ['Places', (found) => found.kind !== 'paper' && found.kind !== 'person'],
  ['Papers', (found) => found.kind === 'paper'],
  ['People', (found) => found.kind === 'person'],
];

const placeAddress = /^\/place\/(?<id>[0-9a-f-]{36})$/u;

/** The one find field: papers, places and people as one types; `/` goes to it, arrows and Enter go there. */
export function FindField() {
  const router = useRouter();
  // The place whose page is open.
  const placeId = placeAddress.exec(usePathname())?.groups?.['id'] ?? null;
  const input = useRef<HTMLInputElement>(null);
  const [words, setWords] = useState('');
  const [open, setOpen] = useState(false);
  const asked = useDeferredValue(words);
  const { data, isFetching, isError, isPlaceholderData } = useAsk(
    'find',
    { words: asked.slice(0, 200) },
    { enabled: asked.trim() !== '', keepPrevious: true },
  );

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement && event.target.closest('input, textarea, select, [contenteditable]');
      if (event.key !== '/' || typing || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      input.current?.focus();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  function go(found: Found) {
    setOpen(false);
    setWords('');
    input.current?.blur();
    if (found.kind === 'paper') router.push(`/paper/${found.id}`);
    else if (found.kind !== 'person') router.push(`/place/${found.id}`);
  }

  function goInside(within: string | null = null) {
    setOpen(false);
    input.current?.blur();
    router.push(findAddress(words.trim(), within));
  }

  const onEnter = useWaitingEnter(data !== undefined && words === asked && !isPlaceholderData, () => {
    const first = groups.flatMap(([, holds]) => data?.filter(holds) ?? []).find(({ kind }) => kind !== 'person');
    if (first) go(first);
    else goInside();
  });

  const shown = open && words.trim() !== '';
  return (
    <Command
      shouldFilter={false}
      label="Find a paper, place or person"
      className="relative"
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        if (words === '') input.current?.blur();
        setWords('');
      }}
      onBlur={(event) => !event.currentTarget.contains(event.relatedTarget) && setOpen(false)}
    >
      <Command.Input
        ref={input}
        value={words}
        onFocus={() => setOpen(true)}
        onValueChange={(value) => {
          setWords(value);
          setOpen(true);
        }}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' || !event.shiftKey || words.trim() === '') return onEnter(event);
          event.preventDefault();
          event.stopPropagation();
          goInside();
        }}
        placeholder="Find a paper, place or person"
        className="h-[32px] w-full rounded-sm border border-[#3f6b70] bg-[#114f55] px-3 pr-9 text-base text-on-brine placeholder:text-on-brine-soft focus:bg-sheet focus:text-ink focus:placeholder:text-soft"
      />
      <kbd
        aria-hidden
        className="pointer-events-none absolute top-[6px] max-sm:hidden right-2 rounded-[3px] border border-[#6a9396] px-1.5 font-mono text-xs text-on-brine-soft"
      >
        /
      </kbd>
      <Command.List
        hidden={!shown}
        className="absolute top-[37px] right-0 left-0 z-50 max-h-[70vh] overflow-y-auto rounded-sm border border-line bg-sheet p-1 text-ink shadow-lg"
      >
        {shown && (
          <>
            {!isFetching && data?.length === 0 && (
              <p className="px-3 py-3 text-sm text-soft">Nothing found for “{words.trim()}”.</p>
            )}
            {isError && <p className="px-3 py-3 text-sm text-ember-ink">The library could not be searched just now.</p>}
            {groups.map(([heading, holds]) => {
              const found = data?.filter(holds) ?? [];
              if (found.length === 0) return null;
              return (
                <Command.Group
                  key={heading}
                  heading={heading}
                  className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:font-condensed [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-soft"
                >
                  {found.map((each) => (
                    <Command.Item
                      key={each.id}
                      value={each.id}
                      disabled={each.kind === 'person'}
                      onSelect={() => go(each)}
                      className="flex cursor-pointer items-center gap-2 rounded-sm px-2 py-1.5 data-[selected=true]:bg-brine-wash"
                    >
                      {each.stamp && <Stamp word={each.stamp} />}
                      {each.reference && <span className="font-mono text-sm text-soft">{each.reference}</span>}
                      <span className="truncate font-medium">
                        <Marked text={each.name} marks={each.marks} />
                      </span>
                      <Path
                        steps={each.about === null ? each.path : [each.about]}
                        className="ml-auto max-w-[45%] shrink-0 text-sm text-soft"
                      />
                    </Command.Item>
                  ))}
                </Command.Group>
              );
            })}
            <Inside onGo={() => goInside()} keys="Shift Enter">
              All papers with “{words.trim()}” in them
            </Inside>
            {placeId !== null && <Inside onGo={() => goInside(placeId)}>Only those here and below</Inside>}
          </>
        )}
      </Command.List>
    </Command>
  );
}

/** A line that goes to the page of results. */
function Inside({
  onGo,
  keys,
  children,
}: {
  readonly onGo: () => void;
  readonly keys?: string;
  readonly children: ReactNode;
}) {
  return (
    <button
      type="button"
      onClick={onGo}
      className="flex w-full cursor-pointer items-center gap-2 rounded-sm px-2 py-1.5 text-left text-brine-ink hover:bg-brine-wash focus-visible:bg-brine-wash"
    >
      {children}
      {keys !== undefined && (
        <kbd aria-hidden className="ml-auto font-mono text-xs text-soft max-sm:hidden">
          {keys}
        </kbd>
      )}
    </button>
  );
}
