'use client';

import { useRef, type ChangeEvent } from 'react';
import { permittedEndings } from '@/core/files/fileKind';
import { Button } from '../kit/button';
import { useSurroundings } from '../surroundings/Surroundings';

/** Choosing files, or a whole folder, from this computer. */
export function PickButtons({ onPick }: { readonly onPick: (files: File[]) => void }) {
  const { library } = useSurroundings();
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);

  function picked(event: ChangeEvent<HTMLInputElement>) {
    onPick([...(event.target.files ?? [])]);
    event.target.value = '';
  }

  return (
    <>
      <input
        ref={files}
        type="file"
        multiple
        hidden
        aria-label="Files from this computer"
        accept={permittedEndings(library.families)
          .map((ending) => `.${ending}`)
          .join(',')}
        onChange={picked}
      />
      <input
        ref={folder}
        type="file"
        multiple
        hidden
        aria-label="A folder from this computer"
        {...{ webkitdirectory: '' }}
        onChange={picked}
      />
      <Button onClick={() => files.current?.click()}>Choose files…</Button>
      <Button onClick={() => folder.current?.click()}>Choose a folder…</Button>
    </>
  );
}
