'use client';

import { useRef, useState } from 'react';
import { Button } from '../kit/button';
import { PhotoDialog } from './PhotoDialog';
import type { Sending, usePutIn } from './usePutIn';

/** Putting something into the intake by hand: files, or pages photographed one after the other. */
export function PutIn({ putIn }: { readonly putIn: ReturnType<typeof usePutIn> }) {
  const files = useRef<HTMLInputElement>(null);
  const [photographs, setPhotographs] = useState(false);
  return (
    <>
      <input
        ref={files}
        type="file"
        multiple
        hidden
        aria-label="Files for the intake"
        onChange={({ target }) => {
          void putIn.put([...(target.files ?? [])]);
          target.value = '';
        }}
      />
      <Button onClick={() => files.current?.click()}>Put in files…</Button>
      <Button onClick={() => setPhotographs(true)}>Photograph pages…</Button>
      {photographs && <PhotoDialog onClose={() => setPhotographs(false)} />}
    </>
  );
}

/** Files on their way into the intake, and those that could not be put in. */
export function SendingList({ putIn: { sending, again, letGo } }: { readonly putIn: ReturnType<typeof usePutIn> }) {
  if (sending.length === 0) return null;
  return (
    <ul aria-label="Files on their way" className="border-b border-line bg-sheet px-6 py-2 max-sm:px-3">
      {sending.map((each) => (
        <SendingLine key={each.key} sending={each} onAgain={() => void again(each)} onLetGo={() => letGo(each.key)} />
      ))}
    </ul>
  );
}

function SendingLine({
  sending: { file, sent, refused },
  onAgain,
  onLetGo,
}: {
  readonly sending: Sending;
  readonly onAgain: () => void;
  readonly onLetGo: () => void;
}) {
  return (
    <li className="flex flex-wrap items-center gap-x-3 py-0.5">
      <span className="min-w-0 truncate font-medium">{file.name}</span>
      {refused === null ? (
        <progress aria-label={`${file.name} on its way`} value={sent} className="h-[6px] w-[120px] accent-brine" />
      ) : (
        <>
          <span role="alert" className="min-w-0 flex-1 text-sm text-ember-ink">
            {refused}
          </span>
          <Button look="quiet" aria-label={`Send ${file.name} again`} onClick={onAgain}>
            Send again
          </Button>
          <Button look="quiet" aria-label={`Let go of ${file.name}`} onClick={onLetGo}>
            Let go
          </Button>
        </>
      )}
    </li>
  );
}
