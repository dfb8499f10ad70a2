'use client';

import { whenInWords } from '@/core/calendar/moment';
import { Link } from '../kit/link';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** How often it is asked whether a paper has been read. */
const againMs = 2000;

/** Says of a paper that was just filed, once it is read, that another one is much like it. */
export function LikeThis({ documentId }: { readonly documentId: string }) {
  const { now, timeZone } = useSurroundings();
  const { data } = useAsk('paper.alike', { documentId }, { again: ({ isRead }) => !isRead && againMs });
  const [first] = data?.papers ?? [];
  if (!first) return null;
  return (
    <p className="text-sm text-ember-ink">
      {first.likeness === 1 ? 'Same text as ' : 'Much like '}
      <Link href={`/paper/${first.documentId}`} className="underline">
        {first.title}
      </Link>
      , filed {whenInWords(first.filedAt, now, timeZone)}
    </p>
  );
}
