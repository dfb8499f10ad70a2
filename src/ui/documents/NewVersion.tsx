'use client';

import { useRef } from 'react';
import type { PaperDocket } from '@/core/documents/model';
import { Button } from '../kit/button';
import { useUploads } from '../uploads/uploadsContext';

/** Chooses a file from this computer as a paper's next version. */
export function NewVersion({ paper }: { readonly paper: PaperDocket }) {
  const { offerVersion } = useUploads();
  const file = useRef<HTMLInputElement>(null);
  const place = { id: paper.homeId, name: paper.homePath.at(-1)?.name ?? 'its place' };
  return (
    <p className="mb-1.5">
      <input
        ref={file}
        type="file"
        hidden
        aria-label="The new version, from this computer"
        onChange={({ target }) => {
          const [chosen] = target.files ?? [];
          if (chosen) offerVersion(chosen, { id: paper.id, title: paper.title, place });
          target.value = '';
        }}
      />
      <Button onClick={() => file.current?.click()}>New version…</Button>
    </p>
  );
}
