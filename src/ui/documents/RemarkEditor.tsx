'use client';

import { useState } from 'react';
import { Button } from '../kit/button';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';

/** The remark on a paper; typed text stays if saving is refused. */
export function RemarkEditor({
  documentId,
  remark,
  revision,
  mayAmend,
}: {
  readonly documentId: string;
  readonly remark: string;
  readonly revision: number;
  readonly mayAmend: boolean;
}) {
  const [text, setText] = useState<string | null>(null);
  // As it was when writing began: what someone else writes meanwhile is a conflict.
  const [seen, setSeen] = useState(revision);
  const save = useAct('paper.setRemark', { quiet: true });
  if (text === null) {
    return (
      <p className="whitespace-pre-wrap">
        {remark}
        {mayAmend && (
          <Button
            look="quiet"
            className="-ml-3"
            onClick={() => {
              setText(remark);
              setSeen(revision);
            }}
          >
            {remark === '' ? 'Write a remark' : 'Change it'}
          </Button>
        )}
      </p>
    );
  }
  return (
    <div>
      <textarea
        aria-label="Remark"
        autoFocus
        rows={4}
        maxLength={4000}
        value={text}
        onChange={(event) => setText(event.target.value)}
        className="w-full rounded-sm border border-edge bg-sheet px-2 py-1"
      />
      {save.error && (
        <p role="alert" className="text-sm text-ember-ink">
          {saysOf(save.error)}
        </p>
      )}
      <div className="mt-1 flex gap-2">
        <Button
          disabled={save.isPending}
          onClick={() => save.mutate({ documentId, remark: text, revision: seen }, { onSuccess: () => setText(null) })}
        >
          Keep the remark
        </Button>
        <Button look="quiet" onClick={() => setText(null)}>
          Cancel
        </Button>
      </div>
    </div>
  );
}
