'use client';

import { useState } from 'react';
import { counted, sizeInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { useAct, useAsk } from '../server/useCall';

/** Of more uploads than this the rest is shown on request. */
const mostShown = 3;

/** Uploads that were interrupted or wait for an answer. */
export function NotFiledYet() {
  const { data } = useAsk('uploads.unfinished', {});
  const answer = useAct('upload.answer');
  const cancel = useAct('upload.cancel');
  const file = useAct('upload.outcome');
  const [all, setAll] = useState(false);
  if (!data || data.length === 0) return null;
  const shown = all ? data : data.slice(0, mostShown);
  return (
    <section aria-label="Not filed yet" className="mb-5 rounded-sm border border-ember bg-ember-wash px-4 py-3">
      <h2 className="font-condensed">Not filed yet</h2>
      <ul>
        {shown.map((upload) => (
          <li key={upload.id} className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1">
            <span className="font-medium">{upload.fileName}</span>
            <span className="figures text-sm text-soft">
              for {upload.placeName} ·{' '}
              {upload.outcome.state === 'same-content'
                ? `the same content is filed already as “${upload.outcome.places[0]?.title ?? ''}”`
                : upload.outcome.state === 'same-name'
                  ? 'a paper of that title is there already'
                  : upload.receivedBytes === upload.sizeBytes
                    ? 'has arrived'
                    : `${sizeInWords(upload.receivedBytes)} of ${sizeInWords(upload.sizeBytes)} have arrived; to continue, choose the same file in ${upload.placeName}`}
            </span>
            <span className="ml-auto flex gap-2">
              {upload.outcome.state === 'same-content' && (
                <Button onClick={() => answer.mutate({ uploadId: upload.id, onSameContent: 'file' })}>
                  File it anyway
                </Button>
              )}
              {upload.outcome.state === 'same-name' && (
                <Button onClick={() => answer.mutate({ uploadId: upload.id, onSameName: 'both' })}>Keep both</Button>
              )}
              {upload.outcome.state === 'receiving' && upload.receivedBytes === upload.sizeBytes && (
                <Button onClick={() => file.mutate({ uploadId: upload.id })}>File it</Button>
              )}
              <Button aria-label={`Discard ${upload.fileName}`} onClick={() => cancel.mutate({ uploadId: upload.id })}>
                Discard
              </Button>
            </span>
          </li>
        ))}
      </ul>
      {data.length > shown.length && (
        <Button look="quiet" className="mt-1 -ml-3" onClick={() => setAll(true)}>
          Show {counted(data.length - shown.length, 'more', 'more')}
        </Button>
      )}
    </section>
  );
}
