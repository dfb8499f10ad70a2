'use client';

import { Command } from 'cmdk';
import { usePathname, useRouter } from 'next/navigation';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { isTyping } from '../kit/isTyping';
import { useWaitingEnter } from '../kit/useWaitingEnter';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { useActsHere } from '../kit/actsHere';
import { actsFor, saysAll } from './acts';
import { findAddress } from './findAddress';
import { FieldOffers } from './FieldOffers';
import { RecentSearches } from './RecentSearches';

const placeAddress = /^\/place\/(?<id>[0-9a-f-]{36})$/u;

/** The one find field: Enter leads to all that is found, arrows to the best few of each sort; `/` goes to it. */
export function FindField() {
  const router = useRouter();
  const { me, seenBy, library } = useSurroundings();
  // The place whose page is open.
  const placeId = placeAddress.exec(usePathname())?.groups?.['id'] ?? null;
  const input = useRef<HTMLInputElement>(null);
  const [words, setWords] = useState('');
  const [open, setOpen] = useState(false);
  const asked = useDeferredValue(words).slice(0, 200);
  const isAsked = asked.trim() !== '';
  const named = useAsk('find', { words: asked }, { enabled: isAsked, keepPrevious: true });
  const inside = useAsk('search.inside', { words: asked }, { enabled: isAsked, keepPrevious: true });
  const here = useActsHere()
    .filter(({ label }) => saysAll(asked, label))
    .slice(0, 4);
  const acts = actsFor(asked, { rootId: library.rootId, keeper: me.keeper, own: seenBy === null });

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = isTyping(event.target);
      if (event.key !== '/' || typing || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      input.current?.focus();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  function go(address: string) {
    setOpen(false);
    setWords('');
    input.current?.blur();
    router.push(address);
  }
  const goFind = (within: string | null = null) => go(findAddress(words.trim(), within));

  // Typed and sent at once: all that is found is there without waiting for the best few.
  const onEnter = useWaitingEnter(words === asked, () => goFind());
  const typed = words.trim() !== '';
  return (
    <Command
      shouldFilter={false}
      loop
      label="Find"
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
          if (event.key !== 'Enter' || !event.shiftKey || !typed) return onEnter(event);
          event.preventDefault();
          event.stopPropagation();
          goFind(placeId);
        }}
        placeholder="Find by any word, number, name or date"
        className="h-[32px] w-full rounded-sm border border-[#3f6b70] bg-[#114f55] px-3 pr-9 text-base text-on-brine placeholder:text-on-brine-soft focus:bg-sheet focus:text-ink focus:placeholder:text-soft"
      />
      <kbd
        aria-hidden
        className="pointer-events-none absolute top-[6px] max-sm:hidden right-2 rounded-[3px] border border-[#6a9396] px-1.5 font-mono text-xs text-on-brine-soft"
      >
        /
      </kbd>
      <Command.List
        hidden={!open}
        className="absolute top-[37px] right-0 left-0 z-50 max-h-[76vh] overflow-y-auto rounded-sm border border-line bg-sheet p-1 text-ink shadow-lg"
      >
        {open && !typed && seenBy === null && <RecentSearches onGo={(recent) => go(findAddress(recent))} />}
        {open && typed && (
          <FieldOffers
            words={words.trim()}
            placeId={placeId}
            named={named.data ?? []}
            inside={inside.data ?? []}
            acts={acts}
            here={here}
            onAct={(act) => {
              setOpen(false);
              setWords('');
              input.current?.blur();
              act();
            }}
            failed={named.isError}
            isAnswered={[named, inside].every((each) => each.data !== undefined && !each.isFetching && words === asked)}
            onFind={goFind}
            onGo={go}
          />
        )}
      </Command.List>
    </Command>
  );
}
