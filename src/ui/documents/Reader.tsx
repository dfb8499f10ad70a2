'use client';

import { useRouter, useSearchParams } from 'next/navigation';
import { useEffect } from 'react';
import type { PaperDocket } from '@/core/documents/model';
import { Link } from '../kit/link';
import { Docket } from './Docket';
import { PaperContent } from './PaperContent';
import { useAsk } from '../server/useCall';

/** What an address may name a place by. */
const idForm = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/u;

/** A paper on the screen, its docket beside it. Esc goes back to where it is filed. */
export function Reader({ initial }: { readonly initial: PaperDocket }) {
  const router = useRouter();
  const { data } = useAsk('paper.docket', { documentId: initial.id }, { initialData: initial });
  const paper = data ?? initial;
  // The ledger from which the paper was opened: its place, sort and conditions.
  const asked = useSearchParams();
  const from = asked.get('from');
  const at = asked.get('at') ?? '';
  const room = at === 'all' ? '/all' : `/place/${idForm.test(at) ? at : paper.homeId}`;
  const back = `${room}?${from ?? `paper=${paper.id}`}`;

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const busy = event.defaultPrevented || document.querySelector('[role="dialog"],[role="menu"]') !== null;
      const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea');
      if (event.key === 'Escape' && !busy && !typing) router.push(back);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [router, back]);

  return (
    <div className="flex min-h-0 min-w-0 flex-1">
      <main id="main" className="flex min-w-0 flex-1 flex-col">
        <div className="no-print flex items-center gap-3 border-b border-line bg-sheet px-4 py-2">
          <Link href={back} className="shrink-0 text-brine-ink hover:underline">
            Back to {paper.homePath.at(-1)?.name ?? 'its place'}
          </Link>
          <h1 className="min-w-0 truncate font-condensed text-lg">{paper.title}</h1>
        </div>
        <div className="min-h-0 flex-1 overflow-auto bg-mist">
          <PaperContent
            paper={paper}
            address={`/api/paper/${paper.id}/content`}
            mayTake={paper.capabilities.includes('take')}
          />
        </div>
      </main>
      <aside
        aria-label="Docket"
        className="no-print hidden w-[318px] shrink-0 overflow-y-auto border-l border-line bg-sheet lg:block"
      >
        <Docket documentId={paper.id} />
      </aside>
    </div>
  );
}
