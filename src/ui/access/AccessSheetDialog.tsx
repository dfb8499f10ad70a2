'use client';

import type { AccessOn } from '@/core/access/contract';
import { openToWords } from '@/core/access/words';
import { counted } from '@/core/text/measure';
import { Dialog } from '../kit/dialog';
import { Link } from '../kit/link';
import { saysOf } from '../server/call';
import { LinksHere } from '../links/LinkList';
import { useAsk } from '../server/useCall';
import { AccessSheet } from './AccessSheet';

/** Who may open a place or a paper, and what each may do there. */
export function AccessSheetDialog({ on, onClose }: { readonly on: AccessOn; readonly onClose: () => void }) {
  const { data, error } = useAsk('access.sheet', { on });
  const reach =
    data &&
    (on.kind === 'paper'
      ? ''
      : ` · ${counted(data.paperCount, 'paper')}${data.placesBelow === 0 ? '' : ` in ${counted(data.placesBelow, 'place')} below`}${
          data.aloneBelow === 0
            ? ''
            : ` · ${data.aloneBelow} of them ${data.aloneBelow === 1 ? 'stands' : 'stand'} alone`
        }`);
  return (
    <Dialog
      title={`Who can open “${data?.name ?? '…'}”`}
      {...(data ? { about: `${openToWords(data.people.length)}${reach}` } : {})}
      open
      onClose={onClose}
      shape="sheet"
    >
      {error && <p role="alert">{saysOf(error)}</p>}
      {data && on.kind === 'place' && (
        <p className="mb-3 text-sm">
          <Link href={`/access/${on.id}`} className="text-brine-ink underline underline-offset-2" onClick={onClose}>
            Who sees what, here and in all places below
          </Link>
        </p>
      )}
      <LinksHere onId={on.id} />
      {data && <AccessSheet key={data.revision} on={on} sheet={data} onClose={onClose} />}
    </Dialog>
  );
}
