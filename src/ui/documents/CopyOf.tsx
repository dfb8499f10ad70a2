'use client';

import { dayInWords } from '@/core/calendar/moment';
import type { PaperDocket, PaperOrigin } from '@/core/documents/model';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** Where a copy came from, and its newer version if there is one. */
export function CopyOf({ paper, origin }: { readonly paper: PaperDocket; readonly origin: PaperOrigin }) {
  const { timeZone } = useSurroundings();
  const take = useAct('paper.takeNewer');
  const restore = useAct('paper.restoreVersion');
  const mayTake = paper.capabilities.includes('amend') && paper.still === null && paper.disposedAt === null;
  return (
    <div className="mt-2">
      <p>
        Copied from{' '}
        {origin.original ? (
          <Link href={`/paper/${origin.original.id}`} className="hover:underline">
            {origin.original.title}
          </Link>
        ) : (
          'a paper that is not there any more, or not open to you'
        )}{' '}
        <span className="text-sm text-soft">{dayInWords(origin.at, timeZone)}</span>
      </p>
      {origin.hasNewer && (
        <p className="mt-1 flex flex-wrap items-center gap-2 rounded-sm border border-straw-edge bg-straw px-2 py-1 text-straw-ink">
          <span className="flex-1">The original has a newer version.</span>
          {mayTake && (
            <Button
              look="straw"
              disabled={take.isPending}
              onClick={() =>
                take.mutate(
                  { documentId: paper.id, revision: paper.revision },
                  {
                    onSuccess: ({ number, before }) =>
                      say.undoable(`Version ${number} is the newer one of the original`, () =>
                        restore.mutate({ documentId: paper.id, number: before, revision: paper.revision + 1 }),
                      ),
                  },
                )
              }
            >
              Take the newer one
            </Button>
          )}
        </p>
      )}
    </div>
  );
}
