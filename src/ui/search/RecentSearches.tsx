'use client';

import { useQueryClient } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { useAct, useAsk } from '../server/useCall';
import { Offer } from './FieldOffers';

/** What one looked for lately: one's own, to be emptied or switched off. */
export function RecentSearches({ onGo }: { readonly onGo: (words: string) => void }) {
  const { data } = useAsk('search.recent', {});
  const queries = useQueryClient();
  const forget = useAct('search.forget');
  const say = (keep: boolean) =>
    forget.mutate(
      { words: null, keep },
      { onSuccess: () => void queries.invalidateQueries({ queryKey: ['search.recent'] }) },
    );
  if (data === undefined) return null;
  const button = 'text-brine-ink hover:underline';
  return (
    <>
      {data !== null && data.length > 0 && (
        <Command.Group
          heading="You looked for"
          className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:font-condensed [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-soft"
        >
          {data.map(({ words }) => (
            <Offer key={words} value={`recent ${words}`} onSelect={() => onGo(words)}>
              <span className="truncate">{words}</span>
            </Offer>
          ))}
        </Command.Group>
      )}
      <p className="flex flex-wrap gap-x-3 px-2 py-2 text-sm text-soft">
        {data === null ? (
          <>
            What you look for is not kept.
            <button type="button" className={button} onClick={() => say(true)}>
              Keep it for me
            </button>
          </>
        ) : (
          <>
            {data.length === 0 ? 'What you look for is kept here, for you alone.' : 'Only you see these.'}
            {data.length > 0 && (
              <button type="button" className={button} onClick={() => say(true)}>
                Empty
              </button>
            )}
            <button type="button" className={button} onClick={() => say(false)}>
              Do not keep any
            </button>
          </>
        )}
      </p>
    </>
  );
}
