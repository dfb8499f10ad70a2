'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { useAct } from '../server/useCall';
import { PackList } from './PackList';

/** The packs of a place, those of its meetings among them; one is begun here from nothing. */
export function PlacePacksPage({
  placeId,
  name,
  mayChange,
}: {
  readonly placeId: string;
  readonly name: string;
  readonly mayChange: boolean;
}) {
  const router = useRouter();
  const begin = useAct('pack.begin');
  const [title, setTitle] = useState('');
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5 max-sm:px-3">
      <div className="max-w-[980px]">
        <p className="text-sm">
          <Link href={`/place/${placeId}`} className="text-brine-ink hover:underline">
            {name}
          </Link>
        </p>
        <h1 className="mb-3 font-condensed text-xl">Packs</h1>
        <PackList
          of={{ placeId }}
          nothing={
            mayChange
              ? 'There is no pack here yet: papers in order, with a cover, contents and page numbers, as one book.'
              : 'No pack is issued here yet.'
          }
        />
        {mayChange && (
          <form
            className="flex items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              if (title.trim() === '' || begin.isPending) return;
              begin.mutate(
                { of: { placeId, name: title } },
                { onSuccess: ({ packId }) => router.push(`/pack/${packId}`) },
              );
            }}
          >
            <input
              aria-label="Name of a new pack"
              placeholder="Name of a new pack"
              value={title}
              maxLength={240}
              onChange={({ target }) => setTitle(target.value)}
              className="h-[34px] min-w-0 flex-1 rounded-sm border border-edge bg-sheet px-2.5 placeholder:text-soft"
            />
            <Button type="submit" disabled={title.trim() === '' || begin.isPending}>
              Begin the pack
            </Button>
          </form>
        )}
      </div>
    </main>
  );
}
