'use client';

import { useEffect, useRef, useState } from 'react';
import type { Turn } from '@/core/intake/cut';
import { mostJoined } from '@/core/intake/join';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { call, saysOf } from '../server/call';
import { useRefresh } from '../server/useCall';
import { moved, PageCard, smallButton } from './PageCard';
import { sendForIntake } from './sendForIntake';

interface Photo {
  readonly key: string;
  readonly file: File;
  readonly address: string;
  readonly turn: Turn;
  /** Its upload, once it was sent: it is not sent again. */
  readonly uploadId: string | null;
}

/** Pages photographed one after the other, on a telephone by its camera, become one paper. */
export function PhotoDialog({ onClose }: { readonly onClose: () => void }) {
  const [photos, setPhotos] = useState<readonly Photo[]>([]);
  const [state, setState] = useState<{ readonly sent: number } | { readonly refused: string } | null>(null);
  const camera = useRef<HTMLInputElement>(null);
  const refresh = useRefresh();
  const addresses = useRef<string[]>([]);
  useEffect(() => () => addresses.current.forEach((each) => URL.revokeObjectURL(each)), []);
  const add = (files: readonly File[]) => {
    const added = files.map((file) => {
      const address = URL.createObjectURL(file);
      addresses.current.push(address);
      return { key: crypto.randomUUID(), file, address, turn: 0 as const, uploadId: null };
    });
    setPhotos([...photos, ...added].slice(0, mostJoined));
  };
  const change = (key: string, part: Partial<Photo>) =>
    setPhotos((all) => all.map((each) => (each.key === key ? { ...each, ...part } : each)));
  const isSending = state !== null && 'sent' in state;

  async function send(): Promise<void> {
    setState({ sent: 0 });
    try {
      const files = [];
      for (const [at, photo] of photos.entries()) {
        const uploadId =
          photo.uploadId ??
          (await sendForIntake(photo.file, (sent) => setState({ sent: (at + sent) / photos.length })));
        change(photo.key, { uploadId });
        files.push({ uploadId, turn: photo.turn });
      }
      await call('intake.putIn', { files, together: true });
      say.done(
        `${counted(photos.length, 'page is', 'pages are')} in the intake, as one paper. It waits once it is read.`,
      );
      refresh();
      onClose();
    } catch (error) {
      setState({ refused: saysOf(error) });
    }
  }

  return (
    <Dialog
      title="Photograph pages"
      about="One after the other, from above and in good light. They become one paper."
      open
      onClose={onClose}
      shape="wide"
    >
      <input
        ref={camera}
        type="file"
        accept="image/*"
        capture="environment"
        multiple
        hidden
        aria-label="A page by the camera"
        onChange={({ target }) => {
          add([...(target.files ?? [])]);
          target.value = '';
        }}
      />
      {photos.length === 0 ? (
        <p className="mb-3 text-soft">No page yet. On a computer without a camera, pictures are chosen instead.</p>
      ) : (
        <ol aria-label="Pages" className="mb-3 grid grid-cols-[repeat(auto-fill,minmax(132px,1fr))] gap-2">
          {photos.map(({ key, address, turn }, at) => (
            <PageCard
              key={key}
              name={`page ${at + 1}`}
              caption={`Page ${at + 1}`}
              address={address}
              turn={turn}
              isFirst={at === 0}
              isLast={at === photos.length - 1}
              onTurn={(next) => change(key, { turn: next })}
              onMove={(by) => setPhotos(moved(photos, at, by))}
            >
              <Button
                className={smallButton}
                aria-label={`Leave out page ${at + 1}`}
                onClick={() => setPhotos(photos.filter((each) => each.key !== key))}
              >
                Leave out
              </Button>
            </PageCard>
          ))}
        </ol>
      )}
      <Button
        look={photos.length === 0 ? 'main' : 'plain'}
        disabled={isSending || photos.length >= mostJoined}
        onClick={() => camera.current?.click()}
      >
        {photos.length === 0 ? 'Photograph the first page' : 'Next page'}
      </Button>
      {isSending && (
        <p role="status" className="mt-3 flex items-center gap-2 text-soft">
          The pages are on their way.
          <progress aria-label="Pages on their way" value={state.sent} className="h-[6px] w-[160px] accent-brine" />
        </p>
      )}
      {state !== null && 'refused' in state && (
        <p role="alert" className="mt-3 text-ember-ink">
          {state.refused}
        </p>
      )}
      <DialogActs>
        <Button onClick={onClose}>Cancel</Button>
        <Button look="main" disabled={photos.length === 0 || isSending} onClick={() => void send()}>
          Put in {photos.length === 0 ? 'the pages' : `${counted(photos.length, 'page')} as one paper`}
        </Button>
      </DialogActs>
    </Dialog>
  );
}
