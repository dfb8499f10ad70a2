'use client';

import { useRef, useState } from 'react';
import type { PaperDocket } from '@/core/documents/model';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { FoundChooser } from '../choosing/FoundChooser';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';

/** A cover is drawn no larger than this. In pixels. */
const longestSide = 1200;

/** A picture from this computer as a JPEG in Base64, made no larger than a cover needs. */
async function smallPicture(file: File): Promise<string> {
  const drawn = await createImageBitmap(file);
  const scale = Math.min(1, longestSide / Math.max(drawn.width, drawn.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(drawn.width * scale);
  canvas.height = Math.round(drawn.height * scale);
  canvas.getContext('2d')?.drawImage(drawn, 0, 0, canvas.width, canvas.height);
  return canvas.toDataURL('image/jpeg', 0.85).split(',')[1] ?? '';
}

/** Chooses the picture that a paper's cover shows: the first page of a paper of the library, or one from this computer. */
export function CoverDialog({ paper, onClose }: { readonly paper: PaperDocket; readonly onClose: () => void }) {
  const set = useAct('paper.setCover', { quiet: true });
  const file = useRef<HTMLInputElement>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const choose = (cover: Parameters<typeof set.mutate>[0]['cover']) =>
    set.mutate(
      { documentId: paper.id, cover },
      {
        onSuccess: () => {
          say.done(`The cover of “${paper.title}” is changed`);
          onClose();
        },
        onError: (error) => setWrong(saysOf(error)),
      },
    );
  return (
    <Dialog
      title={`Cover of ${paper.title}`}
      about="What is shown of it among covers, to everyone who may see it. A picture is copied, and stays as it is now."
      open
      onClose={onClose}
    >
      <FoundChooser
        label="A paper of the library"
        placeholder="The first page of a paper: words of its title"
        holds={({ kind }) => kind === 'paper'}
        onChoose={({ id }) => choose({ ofPaper: id })}
      />
      {wrong !== null && (
        <p role="alert" className="mt-2 text-ember-ink">
          {wrong}
        </p>
      )}
      <input
        ref={file}
        type="file"
        hidden
        accept="image/*"
        aria-label="A picture from this computer"
        onChange={({ target }) => {
          const [chosen] = target.files ?? [];
          target.value = '';
          if (chosen)
            smallPicture(chosen).then(
              (picture) => choose({ picture }),
              () => setWrong('This is not a picture that this browser can read.'),
            );
        }}
      />
      <DialogActs>
        <Button disabled={set.isPending} onClick={() => file.current?.click()}>
          From this computer…
        </Button>
        {paper.hasOwnCover && (
          <Button disabled={set.isPending} onClick={() => choose(null)}>
            Its own first page
          </Button>
        )}
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
