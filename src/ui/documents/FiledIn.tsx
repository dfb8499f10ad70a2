'use client';

import { useState } from 'react';
import type { PaperDocket, PaperFiling } from '@/core/documents/model';
import { placeInWords } from '@/core/places/way';
import { ImpactLines } from '../access/ImpactLines';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { Link } from '../kit/link';
import { useAsk } from '../server/useCall';
import { usePaperActs } from './usePaperActs';

/** All places that list a paper: its home, and cross-filings, which can be removed. */
export function FiledIn({ paper }: { readonly paper: PaperDocket }) {
  const [leaving, setLeaving] = useState<PaperFiling | null>(null);
  return (
    <>
      <ul>
        {paper.isHome && (
          <li>
            <Path path={paper.homePath} paperId={paper.id} /> <span className="text-sm text-soft">home</span>
          </li>
        )}
        {paper.filings.map((filing) => (
          <li key={filing.placeId} className="mt-0.5 flex items-baseline gap-1">
            <span className="min-w-0 flex-1">
              <Path path={filing.path} paperId={paper.id} />{' '}
              <span className="text-sm text-soft">
                {filing.kind === 'opening' ? 'as well, open to its readers' : 'as well'}
              </span>
            </span>
            {filing.mayLeave && paper.disposedAt === null && (
              <Button
                look="quiet"
                className="!h-[22px] !px-1"
                aria-label={`Remove it from ${nameOf(filing)}`}
                onClick={() => setLeaving(filing)}
              >
                Remove
              </Button>
            )}
          </li>
        ))}
      </ul>
      {leaving && <LeaveDialog paper={paper} filing={leaving} onClose={() => setLeaving(null)} />}
    </>
  );
}

const nameOf = ({ path }: PaperFiling): string => placeInWords(path.map((step) => step.name));

function Path({ path, paperId }: { readonly path: PaperFiling['path']; readonly paperId: string }) {
  return path.map((step, index) => (
    <span key={step.id}>
      {index > 0 && <span className="text-soft"> / </span>}
      <Link
        href={`/place/${step.id}${index === path.length - 1 ? `?paper=${paperId}` : ''}`}
        className="hover:underline"
      >
        {step.name}
      </Link>
    </span>
  ));
}

function LeaveDialog({
  paper,
  filing,
  onClose,
}: {
  readonly paper: PaperDocket;
  readonly filing: PaperFiling;
  readonly onClose: () => void;
}) {
  const name = nameOf(filing);
  const { data } = useAsk('papers.forecastFiling', {
    documentIds: [paper.id],
    placeId: filing.placeId,
    kind: null,
  });
  const { leave } = usePaperActs();
  return (
    <Dialog
      title={`Remove “${paper.title}” from ${name}`}
      about="It stays in its home, and wherever else it is filed."
      open
      onClose={onClose}
    >
      <ImpactLines lines={data} />
      <DialogActs>
        <Button
          look="main"
          onClick={() => void leave(paper, { id: filing.placeId, name }).then((done) => done && onClose())}
        >
          Remove it from {name}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
