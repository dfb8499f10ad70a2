'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { PaperDocket } from '@/core/documents/model';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';

/** Asks how a Word paper is to be opened as a note, and says before what it cannot keep. */
export function OpenAsNoteDialog({ paper, onClose }: { readonly paper: PaperDocket; readonly onClose: () => void }) {
  const router = useRouter();
  const mayAmend = paper.capabilities.includes('amend') && paper.still === null;
  const [as, setAs] = useState<'version' | 'paper'>(mayAmend ? 'version' : 'paper');
  const foreseen = useAsk('note.foresee', { documentId: paper.id });
  const make = useAct('note.fromPaper', { quiet: true });
  const refusal = foreseen.error ?? make.error;
  return (
    <Dialog title={`Open ${paper.title} as a note`} open onClose={onClose}>
      {refusal && (
        <p role="alert" className="text-ember-ink">
          {saysOf(refusal)}
        </p>
      )}
      {foreseen.isPending && !refusal && <p aria-busy>It is being read…</p>}
      {foreseen.data && (
        <>
          {foreseen.data.notKept.length === 0 ? (
            <p>All of its text, headings, lists and tables are kept.</p>
          ) : (
            <>
              <p>Its text, headings, lists and tables are kept. A note cannot keep:</p>
              <ul className="list-disc pl-6">
                {foreseen.data.notKept.map((each) => (
                  <li key={each}>{each}</li>
                ))}
              </ul>
            </>
          )}
          <fieldset className="mt-3">
            <legend className="mb-1 text-sm font-semibold">What it becomes</legend>
            {(['version', 'paper'] as const).map((each) => (
              <label key={each} className="flex items-center gap-2 py-0.5">
                <input
                  type="radio"
                  name="as"
                  checked={as === each}
                  disabled={each === 'version' && !mayAmend}
                  onChange={() => setAs(each)}
                  className="accent-brine"
                />
                {each === 'version'
                  ? 'The next version of this paper; the Word document stays as the version before'
                  : 'A paper of its own, beside this one'}
              </label>
            ))}
          </fieldset>
        </>
      )}
      <DialogActs>
        <Button
          look="main"
          disabled={!foreseen.data || make.isPending}
          onClick={() =>
            make.mutate(
              { documentId: paper.id, as },
              { onSuccess: ({ documentId }) => router.push(`/paper/${documentId}/write`) },
            )
          }
        >
          Open as a note
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
